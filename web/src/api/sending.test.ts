import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { send } from "./sending";

/** What the server was sent, in order, and how it answers each. */
let arrived: { what: string; answer: (response: Response) => void; fail: () => void }[];

beforeEach(() => {
  arrived = [];
  vi.stubGlobal("fetch", (request: Request) => {
    return new Promise<Response>((resolve, reject) => {
      arrived.push({
        what: `${request.method} ${new URL(request.url).pathname}`,
        answer: resolve,
        fail: () => reject(new TypeError("no connection")),
      });
    });
  });
});

afterEach(() => vi.unstubAllGlobals());

const request = (method: string, path: string) => new Request(`http://127.0.0.1${path}`, { method });
const undo = () => send(request("POST", "/api/changes/undo"));
const change = () => send(request("PATCH", "/api/snippets/1"));
const seen = () => arrived.map((one) => one.what);

/** Everything that can happen without an answer has happened. */
const settled = () => new Promise((resolve) => setTimeout(resolve));

test("undoing waits until what was changed before it is answered, well or not", async () => {
  const changes = [change(), change()];
  const undone = undo();
  await settled();
  expect(seen()).toEqual(["PATCH /api/snippets/1", "PATCH /api/snippets/1"]);

  arrived[0]!.answer(new Response());
  arrived[1]!.fail();
  await expect(changes[1]).rejects.toThrow("no connection");
  await settled();
  expect(seen().at(-1)).toBe("POST /api/changes/undo");

  arrived[2]!.answer(new Response("undone"));
  expect(await (await undone).text()).toBe("undone");
});

test("what is changed behind undoing waits for it, and each undoing for the one before", async () => {
  const all = [undo(), undo(), change()];
  for (const expected of ["POST /api/changes/undo", "POST /api/changes/undo", "PATCH /api/snippets/1"]) {
    await settled();
    expect(seen()).toEqual([expected]);
    arrived.pop()!.answer(new Response());
  }
  await Promise.all(all);
});

test("what is only asked waits for nothing", async () => {
  const all = [change(), undo(), send(request("GET", "/api/rows"))];
  await settled();
  expect(seen()).toEqual(["GET /api/rows", "PATCH /api/snippets/1"]);
  arrived.forEach((one) => one.answer(new Response()));
  await settled();
  arrived.at(-1)!.answer(new Response());
  await Promise.all(all);
});
