import assert from "node:assert/strict";
import { request } from "node:http";
import { cleanup, configure, waitFor } from "@testing-library/react";
import { afterEach, beforeEach } from "vitest";
import type { Schemas } from "../../src/api";
import { ROOMS } from "../../src/app/rooms";
import { forgetLooks } from "../../src/shared";
import { Reads } from "../../src/shared/book";
import { inRoom } from "../inRoom";

const { DRY_SERVER = "", DRY_COOKIE = "" } = process.env;
export const PATIENCE = 45_000;
// What a room shows is waited for as long as the server may take, on a slow machine too.
configure({ asyncUtilTimeout: PATIENCE });

/** Asks the server that serves the test, as somebody who is signed in. */
export async function ask(url: string, method = "GET", body = "") {
  const { pathname, search } = new URL(url, DRY_SERVER);
  const token = DRY_COOKIE.match(/csrftoken=(\w+)/)?.[1] ?? "";
  const headers = { Cookie: DRY_COOKIE, "X-CSRFToken": token, "Content-Type": "application/json" };
  return new Promise<Response>((answer, fail) => {
    const sent = request(`${DRY_SERVER}${pathname}${search}`, { method, headers }, async (got) => {
      let text = "";
      for await (const part of got.setEncoding("utf8")) text += part;
      const kind = { "Content-Type": got.headers["content-type"] ?? "" };
      answer(new Response(text, { status: got.statusCode, headers: kind }));
    });
    sent.on("error", fail);
    sent.end(body);
  });
}

let reads: Reads;
/** Each test asks anew, and leaves nothing behind. */
export function asksServer() {
  const real = globalThis.fetch;
  beforeEach(() => {
    reads = new Reads({ defaultOptions: { queries: { retry: false } } });
    globalThis.fetch = async (what) =>
      what instanceof Request ? ask(what.url, what.method, await what.text()) : ask(String(what));
    for (const side of ["clientHeight", "clientWidth", "offsetHeight", "offsetWidth"])
      Object.defineProperty(HTMLElement.prototype, side, { configurable: true, value: 800 });
  });
  afterEach(() => {
    cleanup();
    forgetLooks();
    localStorage.clear();
    reads.clear();
    globalThis.fetch = real;
  });
}

/** The parts of all rooms, by their path below a page. */
export const SCREENS = Object.fromEntries(
  ROOMS.flatMap((room) =>
    Object.entries(room.screens).map(([below, load]) => [[room.path, below].filter(Boolean).join("/"), load]),
  ).filter(([path]) => !String(path).includes(":")),
);

/** What is shown, with plain spaces. */
export const words = (of: Element | null = document.body) => of?.textContent?.replaceAll("\u00a0", " ") ?? "";
export const shows = (...expected: RegExp[]) =>
  waitFor(
    () => {
      for (const text of expected) assert.match(words(), text);
    },
    { timeout: PATIENCE },
  );

/** Opens a part of a room on the last page of a project. */
export async function open(path: string, project = "FERRY") {
  window.history.replaceState(null, "", `/${project}/now/${path}`);
  const frame = (await (await ask(`/api/projects/${project}`)).json()) as Schemas["FrameOut"];
  const page = frame.pages.at(-1);
  const load = SCREENS[path];
  assert.ok(page && load);
  const { Component } = await load();
  return inRoom(Component, reads, { path, frame, page });
}
