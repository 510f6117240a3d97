// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { dropDraft, keptDraft, useAutosave } from "./useAutosave";
import { ServerError } from "../api/client";

interface Save {
  body: { basedOn: number; revision: number; document: object; beside: boolean };
  answer: (v: { number: number; revision: number }) => Promise<void>;
  refuse: (e: Error) => Promise<void>;
}

/** What reached the server, each to be answered when the test says so. */
const saves: Save[] = vi.hoisted(() => []);

vi.mock("../api/client", async (original) => ({
  ...(await original<typeof import("../api/client")>()),
  ask: (request: Promise<unknown>) => request,
  api: {
    PUT: (_: string, { body }: { body: Save["body"] }) =>
      new Promise((answer, refuse) => {
        saves.push({
          body,
          answer: (v) => act(async () => answer({ ...v, updatedAt: "", by: "" })),
          refuse: (e) => act(async () => refuse(e)),
        });
      }),
  },
}));

const save = (n: number) => {
  const one = saves[n];
  if (!one) throw new Error(`there were only ${saves.length} saves`);
  return one;
};
const text = (words: string) => ({ content: [words] });
const pass = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds));
const open = () => renderHook(() => useAutosave(7, 3, 0, text("first"))).result;
const draft = () => keptDraft(7, 99, text("first"), (stored) => stored as object)?.document;

beforeEach(() => {
  vi.useFakeTimers();
  saves.length = 0;
  localStorage.clear();
});

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

test("what is typed in one go is saved once, a moment after the last key", async () => {
  const autosave = open();
  for (const words of ["s", "se", "sec"]) {
    act(() => autosave.current.change(text(words)));
    await pass(200);
  }
  expect(saves).toHaveLength(0);
  expect(autosave.current.state).toBe("waiting");
  await pass(300);
  expect(saves.map((s) => s.body)).toEqual([{ basedOn: 3, revision: 0, document: text("sec"), beside: false }]);
  expect(autosave.current.state).toBe("saving");
  await save(0).answer({ number: 4, revision: 1 });
  expect([autosave.current.state, autosave.current.version, autosave.current.base()]).toEqual(["saved", 4, text("sec")]);
  expect(draft()).toBeUndefined();
});

test("what is typed while a save is on its way is saved after it, on top of it, and kept here until then", async () => {
  const autosave = open();
  act(() => autosave.current.change(text("one")));
  await pass(500);
  act(() => autosave.current.change(text("two")));
  await pass(5000);
  expect(saves).toHaveLength(1);
  await save(0).answer({ number: 4, revision: 0 });
  expect(draft()).toEqual(text("two"));
  expect(save(1).body).toMatchObject({ basedOn: 4, document: text("two") });
  await save(1).answer({ number: 4, revision: 1 });
  expect(draft()).toBeUndefined();
});

test("while the server is away it is tried again by itself, and nothing that was typed meanwhile is lost", async () => {
  const autosave = open();
  act(() => autosave.current.change(text("one")));
  await pass(500);
  await save(0).refuse(new ServerError("The server is not responding.", 0));
  expect(autosave.current.state).toEqual({ offline: "The server is not responding." });
  expect(autosave.current.mine()).toEqual(text("one"));
  act(() => autosave.current.change(text("two")));
  await pass(500);
  await save(1).refuse(new ServerError("Bad gateway", 502));
  expect(draft()).toEqual(text("two"));
  await pass(4000);
  expect(save(2).body.document).toEqual(text("two"));
  await save(2).answer({ number: 4, revision: 0 });
  expect(autosave.current.state).toBe("saved");
});

test("where somebody else saved meanwhile it waits for a choice, whatever is typed, and the choice is what is stored", async () => {
  const autosave = open();
  act(() => autosave.current.change(text("mine")));
  await pass(500);
  await save(0).refuse(new ServerError("Tomás saved this letter.", 412));
  expect(autosave.current.state).toEqual({ conflict: "Tomás saved this letter." });
  act(() => autosave.current.change(text("mine still")));
  expect(autosave.current.state).toEqual({ conflict: "Tomás saved this letter." });
  expect([autosave.current.mine(), autosave.current.base()]).toEqual([text("mine still"), text("first")]);
  const put = autosave.current.put(text("both"), 5, 2);
  expect(save(1).body).toEqual({ basedOn: 5, revision: 2, document: text("both"), beside: false });
  await save(1).answer({ number: 6, revision: 0 });
  await put;
  expect([autosave.current.state, autosave.current.version]).toEqual(["saved", 6]);
  // What was waiting is not sent after it.
  await pass(10_000);
  expect(saves).toHaveLength(2);
});

test("a save that the server refuses shows the reason, keeps the text, and is not retried until the text changes", async () => {
  const autosave = open();
  act(() => autosave.current.change(text("wrong")));
  await pass(500);
  await save(0).refuse(new ServerError("This is too long.", 400));
  await pass(60_000);
  expect([saves.length, autosave.current.state]).toEqual([1, { wrong: "This is too long." }]);
  expect(draft()).toEqual(text("wrong"));
});

test("what is left when the design is closed is sent at once", async () => {
  const { result, unmount } = renderHook(() => useAutosave(7, 3, 0, text("first")));
  act(() => result.current.change(text("last words")));
  unmount();
  await pass(0);
  expect(saves.map((s) => s.body.document)).toEqual([text("last words")]);
});

test("a kept text is offered where it is newer than what the server has, and never where the browser kept nonsense", () => {
  const complete = (stored: unknown) => stored as object;
  const keep = (kept: unknown) => localStorage.setItem("bandeja.draft.7", JSON.stringify(kept));
  keep({ basedOn: 3, at: "", document: text("kept") });
  expect(keptDraft(7, 3, text("stored"), complete)?.document).toEqual(text("kept"));
  expect(keptDraft(7, 2, text("stored"), complete)).toBeNull();
  expect(keptDraft(7, 3, text("kept"), complete)).toBeNull();
  localStorage.setItem("bandeja.draft.7", "{");
  expect(keptDraft(7, 3, text("stored"), complete)).toBeNull();
  dropDraft(7);
  expect(localStorage).toHaveLength(0);
});
