import assert from "node:assert/strict";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, test } from "vitest";
import { Problem } from "../src/api";
import { keys } from "../src/shared";
import {
  type Asked,
  revisionOf,
  see,
  settleUnsent,
  usePreview,
  useUnfinished,
  useUnsent,
  useWrites,
} from "../src/shared/book";

const BY = { by: "Tobin Test", label: "52 % on A350", subject: "A350", subjects: ["A350"] };
const stale = (...changes: (typeof BY)[]) =>
  new Problem(409, "stale", "Somebody wrote meanwhile.", undefined, undefined, changes);

/** What a server keeps: two cells, and what others do to them between a read and a write. */
let kept: Record<string, string>;
let seen: Record<string, string>;
let sent: string[];
let queries: QueryClient;

const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={queries}>{children}</QueryClientProvider>
);
const path = () =>
  renderHook(
    () =>
      useWrites({
        project: "P",
        part: "sheet",
        read: async () => {
          seen = { ...kept };
        },
      }),
    { wrapper: within },
  ).result;
const cell = (row: string, text: string): Asked => ({ row, field: "percent", text, current: () => seen[row] });
/** Writes a cell where what was seen is what is kept; a write of somebody else makes it stale. */
const put = (row: string, text: string) => async () => {
  sent.push(`${row}=${text}`);
  if (JSON.stringify(seen) !== JSON.stringify(kept)) throw stale(BY);
  kept[row] = text;
  seen = { ...kept };
  return text;
};

beforeEach(() => {
  kept = { A350: "31", A360: "36" };
  seen = { ...kept };
  sent = [];
  queries = new QueryClient();
});
afterEach(cleanup);

test("what is typed counts at once and until it is answered", async () => {
  const writes = path();
  let answer = (_: string) => {};
  const slow = () => new Promise<string>((done) => (answer = done));
  let done: Promise<string | null> = Promise.resolve(null);
  act(() => {
    done = writes.current.write(slow, [cell("A350", "45")]);
  });
  await waitFor(() => assert.equal(writes.current.waiting["A350:percent"], "45"));
  assert.ok(writes.current.busy);
  await act(async () => {
    answer("45");
    await done;
  });
  await waitFor(() => assert.deepEqual(writes.current.waiting, {}));
  assert.ok(!writes.current.busy);
});

test("writes go one after the other, in the order in which they were made", async () => {
  const writes = path();
  await act(async () => {
    const all = ["1", "2", "3"].map((text) => writes.current.write(put("A350", text), [cell("A350", text)]));
    assert.deepEqual(await Promise.all(all), ["1", "2", "3"]);
  });
  assert.deepEqual(sent, ["A350=1", "A350=2", "A350=3"]);
  assert.equal(kept.A350, "3");
});

test("another's write on another cell is taken in, and this one is sent again", async () => {
  const writes = path();
  kept.A360 = "40";
  await act(async () => {
    assert.equal(await writes.current.write(put("A350", "45"), [cell("A350", "45")]), "45");
  });
  assert.deepEqual(kept, { A350: "45", A360: "40" });
  assert.deepEqual(writes.current.troubles, {});
  assert.equal(sent.length, 2);
});

test("another's write on the same cell is not overwritten, but shown beside it", async () => {
  const writes = path();
  kept.A350 = "52";
  await act(async () => {
    assert.equal(await writes.current.write(put("A350", "45"), [cell("A350", "45")]), null);
  });
  assert.equal(kept.A350, "52");
  await waitFor(() => assert.equal(writes.current.troubles["A350:percent"]?.stale?.by, "Tobin Test"));
  assert.equal(writes.current.troubles["A350:percent"]?.text, "45");
  await act(async () => {
    await writes.current.write(put("A350", "45"), [cell("A350", "45")], true);
  });
  assert.equal(kept.A350, "45");
  await waitFor(() => assert.deepEqual(writes.current.troubles, {}));
});

test("of several cells the one that clashes is named, and none is written", async () => {
  const writes = path();
  kept.A360 = "40";
  const both = async () => {
    if (JSON.stringify(seen) !== JSON.stringify(kept)) throw stale({ ...BY, subject: "A360", subjects: ["A360"] });
    return "done";
  };
  await act(async () => {
    await writes.current.write(both, [cell("A350", "1"), cell("A360", "2")]);
  });
  await waitFor(() => assert.deepEqual(Object.keys(writes.current.troubles), ["A360:percent"]));
});

test("a refusal stands beside the cell that caused it, with what was typed, until it is dropped", async () => {
  const writes = path();
  const refuse = () => Promise.reject(new Problem(422, "entry-refused", "“x” is not a percent.", "percent"));
  await act(async () => {
    assert.equal(await writes.current.write(refuse, [cell("A350", "x")]), null);
  });
  await waitFor(() => assert.equal(writes.current.troubles["A350:percent"]?.message, "“x” is not a percent."));
  assert.equal(writes.current.troubles["A350:percent"]?.text, "x");
  const again = path();
  assert.equal(again.current.troubles["A350:percent"]?.text, "x", "it is still there after going elsewhere and back");
  act(() => writes.current.drop("A350", "percent") as undefined);
  await waitFor(() => assert.deepEqual(writes.current.troubles, {}));
});

test("a refusal that belongs to no cell is said, and the next write goes on", async () => {
  const writes = path();
  const refuse = () => Promise.reject(new Problem(409, "nothing-to-undo", "There is nothing to undo."));
  await act(async () => {
    await writes.current.write(refuse);
  });
  await waitFor(() => assert.equal(writes.current.refused, "There is nothing to undo."));
  await act(async () => {
    await writes.current.write(put("A350", "45"));
  });
  await waitFor(() => assert.equal(writes.current.refused, null));
  assert.equal(kept.A350, "45");
});

test("a fault that is no refusal is not swallowed", async () => {
  const writes = path();
  await act(async () => {
    await assert.rejects(writes.current.write(() => Promise.reject(new TypeError("broken"))));
  });
  assert.ok(!writes.current.busy);
});

/** A server that is away until it is let back. */
let away = true;
const offline = (row: string, text: string) => async () => {
  if (away) throw new Problem(0, "unreachable", "The server does not answer.");
  return put(row, text)();
};

test("what can't be sent is kept, and sent in its order when the server answers", async () => {
  away = true;
  const writes = path();
  const unsent = renderHook(() => useUnsent(), { wrapper: within }).result;
  const unfinished = renderHook(() => useUnfinished(), { wrapper: within }).result;
  let all: Promise<unknown> = Promise.resolve();
  act(() => {
    all = Promise.all([
      writes.current.write(offline("A350", "45"), [cell("A350", "45")]),
      writes.current.write(offline("A360", "50"), [cell("A360", "50")]),
    ]);
  });
  await waitFor(() => assert.equal(unsent.current, 1));
  assert.deepEqual(writes.current.waiting, { "A350:percent": "45", "A360:percent": "50" });
  assert.deepEqual(writes.current.troubles, {});
  assert.ok(unfinished.current());
  away = false;
  await act(async () => {
    window.dispatchEvent(new Event("online"));
    await all;
  });
  assert.deepEqual(kept, { A350: "45", A360: "50" });
  assert.deepEqual(sent, ["A350=45", "A360=50"]);
  await waitFor(() => assert.deepEqual(writes.current.waiting, {}));
  assert.equal(unsent.current, 0);
  assert.ok(!unfinished.current());
});

test("what is not to be sent after all stands refused where it was typed", async () => {
  away = true;
  const writes = path();
  const unfinished = renderHook(() => useUnfinished(), { wrapper: within }).result;
  let done: Promise<unknown> = Promise.resolve();
  act(() => {
    done = writes.current.write(offline("A350", "45"), [cell("A350", "45")]);
  });
  await waitFor(() => assert.ok(writes.current.busy));
  await act(async () => {
    await new Promise((rest) => setTimeout(rest));
    settleUnsent(false);
    await done;
  });
  await waitFor(() => assert.equal(writes.current.troubles["A350:percent"]?.text, "45"));
  assert.ok(unfinished.current());
  assert.deepEqual(kept, { A350: "31", A360: "36" });
});

test("an answer that was lost is no write of somebody else", async () => {
  const writes = path();
  away = true;
  let first = true;
  const lost = async () => {
    if (first) {
      first = false;
      kept.A350 = "45"; // it was written; only the answer did not come
      throw new Problem(0, "unreachable", "The server does not answer.");
    }
    return put("A350", "45")();
  };
  let done: Promise<unknown> = Promise.resolve();
  act(() => {
    done = writes.current.write(lost, [cell("A350", "45")]);
  });
  await waitFor(() => assert.ok(!first));
  await act(async () => {
    await new Promise((rest) => setTimeout(rest));
    settleUnsent(true);
    await done;
  });
  assert.deepEqual(writes.current.troubles, {});
  assert.equal(kept.A350, "45");
});

/** The write path of a project that stands at a revision, and what it sent. */
function counted(counts = true) {
  see("R", 5);
  const asked: number[] = [];
  const { result } = renderHook(() => useWrites({ project: "R", part: "sheet", read: async () => undefined, counts }), {
    wrapper: within,
  });
  return { asked, writes: result };
}

test("every write says the revision that all that is shown is at, and learns the next from its answer", async () => {
  const { asked, writes } = counted();
  const put = (answer: (next: number) => unknown) => async (revision: number) => {
    asked.push(revision);
    return answer(revision + 1);
  };
  await act(async () => {
    await writes.current.write(put((revision) => ({ revision })));
    await writes.current.write(put((revision) => ({ rows: [], effect: { revision, label: "posted" } })));
    await writes.current.once(put((revision) => ({ page: "P4", revision })));
    await writes.current.write(put(() => true));
    await writes.current.write(async () => ({ revision: 99, note: "was told none, so it counts none" }));
  });
  assert.deepEqual(asked, [5, 6, 7, 8]);
  assert.equal(revisionOf("R"), 8);
});

test("after a write on what somebody else wrote, the rest of what is shown is read again", async () => {
  const { asked, writes } = counted();
  const about = keys.project("R").about;
  queries.setQueryData(about, { name: "as it was" });
  await act(async () => {
    await writes.current.write(async (revision) => {
      asked.push(revision);
      if (revision < 9) throw new Problem(409, "stale", "Somebody wrote meanwhile.", undefined, undefined, [BY], 9);
      return { revision: revision + 1 };
    });
  });
  assert.deepEqual(asked, [5, 9]);
  assert.equal(revisionOf("R"), 10);
  assert.ok(queries.getQueryState(about)?.isInvalidated);
});

test("what counts by itself, as an option does, is no revision of the project", async () => {
  const { writes } = counted(false);
  await act(async () => {
    await writes.current.write(async (_revision) => ({ revision: 5000001 }));
  });
  assert.equal(revisionOf("R"), 5);
});

test("a preview is asked for once the hands rest, and what was overtaken is given up", async () => {
  const asked: { text: string; signal: AbortSignal }[] = [];
  let answer = (_: string) => {};
  const { result, rerender } = renderHook(
    ({ text }) =>
      usePreview(
        keys.page("P", "P4").status(text),
        (signal) => {
          asked.push({ text, signal });
          return new Promise<string>((done) => (answer = done));
        },
        true,
        20,
      ),
    { wrapper: within, initialProps: { text: "1" } },
  );
  await waitFor(() =>
    assert.deepEqual(
      asked.map((a) => a.text),
      ["1"],
    ),
  );
  for (const text of ["12", "12 m", "12 mar"]) rerender({ text });
  assert.equal(result.current.fresh, false);
  await waitFor(() =>
    assert.deepEqual(
      asked.map((a) => a.text),
      ["1", "12 mar"],
    ),
  );
  assert.ok(asked[0]?.signal.aborted);
  await act(async () => answer("three finishes move"));
  await waitFor(() => assert.ok(result.current.fresh));
  assert.equal(result.current.data, "three finishes move");
});
