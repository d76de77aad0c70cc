import "@fontsource/barlow/400.css";
import "@fontsource/barlow/500.css";
import "@fontsource/barlow/600.css";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import "./globals.css";
import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";

export const metadata: Metadata = {
  title: { default: "Bold Seam", template: "%s · Bold Seam" },
  description: "Divide, trim and combine solids with sheets, for tooling and fabrication.",
};

export default async function RootLayout({ children }: { children: ReactNode }) {
  // Asking for the request makes every page, the one that says that there is none too, for each request: its scripts carry
  // the word that the policy asks for.
  await headers();
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        {/* Sets the theme before the first paint, so that a dark room stays dark. */}
        <script src="/theme.js" />
      </head>
      <body>{children}</body>
    </html>
  );
}
