import "@fontsource/barlow/400.css";
import "@fontsource/barlow/500.css";
import "@fontsource/barlow/600.css";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import "./globals.css";
import type { Metadata } from "next";
import type { ReactNode } from "react";

export const metadata: Metadata = {
  title: { default: "Bold Seam", template: "%s · Bold Seam" },
  description: "Divide, trim and combine solids with sheets, for tooling and fabrication.",
};

/** Sets the theme before the first paint, so that a dark room stays dark. */
const THEME = `try{var t=localStorage.getItem("bold-seam:theme")||(matchMedia("(prefers-color-scheme: dark)").matches?"dark":"light");document.documentElement.dataset.theme=t}catch(e){}`;

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script>{THEME}</script>
      </head>
      <body>{children}</body>
    </html>
  );
}
