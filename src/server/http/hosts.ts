/** Names by which this machine calls itself. */
const OWN = ["localhost", "127.0.0.1", "[::1]"];

/**
 * Whether a request's Host header names this server: this machine, or what a setting adds. A name of someone else's that leads
 * here (a page can have its own name lead to this machine) is none of them.
 * @param setting further host names, with or without a port, separated by commas.
 */
export function isOwnHost(host: string | null, setting = ""): boolean {
  if (!host) return false;
  const name = host.toLowerCase();
  const bare = name.replace(/:\d+$/, "");
  const added = setting
    .split(",")
    .map((entry) => entry.trim().toLowerCase())
    .filter(Boolean);
  return OWN.includes(bare) || added.includes(bare) || added.includes(name);
}
