// Before the first paint: light or dark, and the size of the text, as they were chosen in this browser.
try {
  // A choice that an earlier release kept by itself goes on to count.
  const { theme = localStorage.getItem("bold-seam:theme"), text } = JSON.parse(
    localStorage.getItem("bold-seam:settings") || "{}",
  );
  const wanted = matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  document.documentElement.dataset.theme = theme === "light" || theme === "dark" ? theme : wanted;
  if (text === "small" || text === "large") document.documentElement.dataset.text = text;
} catch {
  // Without storage the page's own theme stands.
}
