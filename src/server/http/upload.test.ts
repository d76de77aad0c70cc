import { readdirSync } from "node:fs";
import { tmpdir } from "node:os";
import { expect, test } from "vitest";
import { HttpProblem } from "./problem";
import { takeUpload } from "./upload";

const left = () => readdirSync(tmpdir()).filter((name) => name.startsWith("bold-seam-upload-"));

/** A request whose body comes in pieces, without a length. */
function request(pieces: number, size: number): Request {
  let sent = 0;
  const body = new ReadableStream({
    pull(controller) {
      if (sent++ < pieces) controller.enqueue(new Uint8Array(size).fill(sent));
      else controller.close();
    },
  });
  return new Request("http://localhost/", { method: "POST", body, duplex: "half" } as RequestInit);
}

test("an upload comes whole, and leaves nothing behind", async () => {
  const size = await takeUpload(request(5, 1000), 10_000, async (bytes) => {
    expect(left()).toHaveLength(1);
    expect([bytes[0], bytes[4999]]).toEqual([1, 5]);
    return bytes.length;
  });
  expect(size).toBe(5000);
  expect(left()).toEqual([]);
});

test("one that is too long is refused as soon as it is, and leaves nothing behind", async () => {
  const cause = await takeUpload(request(1_000_000, 1000), 10_000, async () => {}).catch((error) => error);
  expect(cause).toBeInstanceOf(HttpProblem);
  expect(cause.status).toBe(413);
  expect(left()).toEqual([]);
});

test("of many at once only one is in memory as a whole", async () => {
  let now = 0;
  let most = 0;
  await Promise.all(
    Array.from({ length: 6 }, () =>
      takeUpload(request(3, 100), 10_000, async () => {
        most = Math.max(most, ++now);
        await new Promise((resolve) => setTimeout(resolve, 5));
        now--;
      }),
    ),
  );
  expect(most).toBe(1);
});
