import { type Browser, chromium } from "@playwright/test";

/** Debian's Chromium without a monitor, drawing in three dimensions by itself: for pictures of the running program. */
export const startChromium = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
    args: ["--use-gl=swiftshader", "--enable-unsafe-swiftshader", "--ignore-gpu-blocklist"],
  });
