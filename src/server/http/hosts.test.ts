import { expect, test } from "vitest";
import { isOwnHost } from "./hosts";

test.each(["localhost", "localhost:3000", "LOCALHOST:3000", "127.0.0.1:8080", "[::1]:3000", "[::1]"])(
  "%s is this machine",
  (host) => {
    expect(isOwnHost(host)).toBe(true);
  },
);

test.each([
  null,
  "",
  "evil.example",
  "evil.example:3000",
  "localhost.evil.example",
  "127.0.0.1.evil.example",
  "127.0.0.2",
  "xlocalhost",
])("%s is not", (host) => {
  expect(isOwnHost(host)).toBe(false);
});

test("a setting adds names, with a port or for any", () => {
  expect(isOwnHost("shop.example:443", "shop.example, other.example:80")).toBe(true);
  expect(isOwnHost("other.example:80", "shop.example, other.example:80")).toBe(true);
  expect(isOwnHost("other.example:81", "shop.example, other.example:80")).toBe(false);
});
