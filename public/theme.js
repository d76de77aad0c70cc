try {
  const wanted = matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
  document.documentElement.dataset.theme = localStorage.getItem("bold-seam:theme") || wanted;
} catch {
  // Without storage the page's own theme stands.
}
