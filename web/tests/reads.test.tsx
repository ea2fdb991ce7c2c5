import assert from "node:assert/strict";
import { QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, test } from "vitest";
import { Reads } from "../src/shared/book";

/** The answers that are still to come, in the order they were asked for. */
let asked: ((answer: string) => void)[];
let reads: Reads;

const within = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={reads}>{children}</QueryClientProvider>
);
const board = () =>
  renderHook(
    () => useQuery({ queryKey: ["P", "options"], queryFn: () => new Promise<string>((done) => asked.push(done)) }),
    { wrapper: within },
  ).result;

beforeEach(() => {
  asked = [];
  reads = new Reads({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY, retry: false } } });
});
afterEach(cleanup);

test("a first read that was asked before a write does not pass for what the write left", async () => {
  const shown = board();
  await waitFor(() => assert.equal(asked.length, 1));
  act(() => void reads.invalidateQueries({ queryKey: ["P"] }));
  await waitFor(() => assert.equal(asked.length, 2));
  act(() => asked[0]?.("before"));
  await act(async () => asked[1]?.("after"));
  await waitFor(() => assert.equal(shown.current.data, "after"));
  assert.equal(shown.current.error, null);
});

test("what is shown stays while it is read again, and a read of another project goes on", async () => {
  const shown = board();
  await waitFor(() => assert.equal(asked.length, 1));
  act(() => void reads.invalidateQueries({ queryKey: ["Q"] }));
  await act(async () => asked[0]?.("first"));
  await waitFor(() => assert.equal(shown.current.data, "first"));
  assert.equal(asked.length, 1);
  act(() => void reads.invalidateQueries({ queryKey: ["P"] }));
  await waitFor(() => assert.equal(asked.length, 2));
  assert.equal(shown.current.data, "first");
  await act(async () => asked[1]?.("second"));
  await waitFor(() => assert.equal(shown.current.data, "second"));
});
