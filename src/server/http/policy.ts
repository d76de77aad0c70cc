/**
 * What a page may load and run, as a Content-Security-Policy. Styles may stand in elements: sizes that follow a window or a
 * pointer are written there.
 * @param scripts where scripts may come from, as the policy writes it.
 */
export const policy = (scripts: string): string =>
  [
    "default-src 'self'",
    `script-src ${scripts}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join("; ");
