// @vitest-environment-options { "url": "http://ledger.test/" }
import assert from "node:assert/strict";
import { cleanup, screen } from "@testing-library/react";
import { afterEach, beforeEach, test } from "vitest";
import { ROOMS } from "../src/app/rooms";
import { Reads } from "../src/shared/book";
import { inRoom } from "./inRoom";

/** What the network answers to whatever is asked. */
let network: () => Promise<Response>;
let reads: Reads;
const real = globalThis.fetch;
beforeEach(() => {
  reads = new Reads({ defaultOptions: { queries: { retry: false } } });
  globalThis.fetch = () => network();
  for (const side of ["clientHeight", "clientWidth", "offsetHeight", "offsetWidth"])
    Object.defineProperty(HTMLElement.prototype, side, { configurable: true, value: 800 });
});
afterEach(() => {
  cleanup();
  reads.clear();
  globalThis.fetch = real;
});

const SCREENS = ROOMS.flatMap((room) =>
  Object.entries(room.screens).map(([below, load]) => ({
    path: [room.path, below].filter(Boolean).join("/"),
    load,
  })),
);

async function open(load: (typeof SCREENS)[number]["load"], path: string) {
  const { Component } = await load();
  return inRoom(Component, reads, { path });
}

/** Leaves the room that asks the server for nothing until one does something in it. */
const asks = SCREENS.filter(({ path }) => path !== "exchange");

test("every room is walked", () => {
  assert.deepEqual([...new Set(SCREENS.map(({ path }) => path.split("/")[0]))].length, ROOMS.length);
});

for (const { path, load } of asks) {
  test(`${path} says that it waits`, async () => {
    network = () => new Promise(() => undefined);
    const { container } = await open(load, path);
    assert.ok(container.textContent?.trim());
    assert.equal(screen.queryAllByRole("alert").length, 0);
  });

  test(`${path} says in the server's words what is wrong, and never nothing`, async () => {
    const detail = "The tide is out. Come back at noon.";
    const problem = { type: "urn:x", title: "Closed", status: 403, code: "closed", detail };
    network = async () =>
      new Response(JSON.stringify(problem), { status: 403, headers: { "Content-Type": "application/problem+json" } });
    await open(load, path);
    assert.ok((await screen.findAllByText(detail, { exact: false })).length > 0);
  });

  test(`${path} says that the server does not answer`, async () => {
    network = () => Promise.reject(new TypeError("Failed to fetch"));
    await open(load, path);
    assert.ok((await screen.findAllByText(/The server does not answer/)).length > 0);
  });
}
