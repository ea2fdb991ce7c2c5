import createClient from "openapi-fetch";
import { formats, told } from "../shared/formats";
import { words } from "../shared/words";
import { signedInAgain } from "./expiry";
import type { components, paths } from "./schema.gen";

/** The one thin client of the API. Types come from the server's OpenAPI document. */
export type Schemas = components["schemas"];

export interface Change {
  by: string;
  label: string;
  subject: string;
  subjects: string[];
}

/** A refusal of the server: a code, a plain sentence, and where it has one the field. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field?: string,
    readonly nearest?: string,
    readonly changes: Change[] = [],
    readonly revision?: number,
    readonly row?: string,
  ) {
    super(message);
  }
}

const cookie = (name: string) =>
  document.cookie
    .split("; ")
    .find((c) => c.startsWith(`${name}=`))
    ?.slice(name.length + 1) ?? "";

/** Where the server is not reached that is told as what it is, and as nothing else. */
const reach = (...asked: Parameters<typeof fetch>) =>
  fetch(...asked).catch((error: unknown) => {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Problem(0, "unreachable", words.api.unreachable);
  });

const client = createClient<paths>({ baseUrl: "/", fetch: (request) => reach(request) });

const copies = new WeakMap<Request, Request>();

client.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    request.headers.set("Dry-Formats", told(formats()));
    copies.set(request, request.clone());
    return request;
  },
  /** Where the session has run out, what was asked is asked again once the person has signed in. */
  async onResponse({ request, response }) {
    const again = copies.get(request);
    if (response.status !== 401 || !again || request.url.endsWith("/api/session")) return response;
    if (!(await signedInAgain())) return response;
    const headers = new Headers(again.headers);
    if (again.method !== "GET") headers.set("X-CSRFToken", cookie("csrftoken"));
    return reach(new Request(again, { headers }));
  },
});

interface ProblemBody {
  code?: string;
  detail?: string;
  field?: string;
  nearest?: string;
  changes?: Change[];
  revision?: number;
  row?: string;
}

/** Unwraps an answer; throws Problem for a refusal. */
export async function take<T>(answer: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const got = await answer;
  if (got.response.ok) return got.data as T;
  const body = (typeof got.error === "object" && got.error ? got.error : {}) as ProblemBody;
  // What stands before the server says so where that is down.
  if (!body.code && [502, 503, 504].includes(got.response.status))
    throw new Problem(0, "unreachable", words.api.unreachable);
  throw new Problem(
    got.response.status,
    body.code ?? "unexpected",
    body.detail ?? words.api.wordless(got.response.status),
    body.field,
    body.nearest,
    body.changes,
    body.revision,
    body.row,
  );
}

/** Sends a file with a few fields, as a form; answers and refusals are like those of every other call. */
export async function sendFile<T>(path: string, file: File, fields: Record<string, string>): Promise<T> {
  const body = new FormData();
  body.append("file", file);
  for (const [key, value] of Object.entries(fields)) body.append(key, value);
  const send = () => reach(`/api/${path}`, { method: "POST", body, headers: { "X-CSRFToken": cookie("csrftoken") } });
  const answer = send()
    .then(async (response) => (response.status === 401 && (await signedInAgain()) ? send() : response))
    .then(async (response) => {
      const found: unknown = await response.json().catch(() => undefined);
      return response.ok ? { data: found as T, response } : { error: found, response };
    });
  return take(answer);
}

export { client };
