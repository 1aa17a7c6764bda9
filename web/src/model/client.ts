import createClient from "openapi-fetch";
import { believed, has } from "./json";
import type { paths } from "./schema.gen";
import type { Problem } from "./types";

/** An error of the API, with the fields it names. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail || problem.title);
  }
  get status() {
    return this.problem.status;
  }
  /** What is wrong with one field, if anything. */
  field(path: string): string | undefined {
    const found = this.problem.fields?.find((f) => f.path === path || f.path.startsWith(`${path}.`));
    if (!found) return undefined;
    return found.accepted ? `${found.problem}. Accepted: ${found.accepted}` : found.problem;
  }
}

/** The server could not be reached at all; nothing is known of what it did. */
export class Unreachable extends Error {
  constructor() {
    super("The server cannot be reached. What you typed is kept here.");
  }
}

let csrf = "";
export const setCsrf = (token: string) => {
  csrf = token;
};

/** How far the news had been told when this page read its first answer. */
export let stood: string | undefined;

export const client = createClient<paths>({
  fetch: async (request: Request) => {
    if (request.method !== "GET" && csrf) request.headers.set("X-CSRF-Token", csrf);
    try {
      const answer = await fetch(request);
      stood ??= answer.headers.get("Handwerk-Stands") ?? undefined;
      return answer;
    } catch {
      throw new Unreachable();
    }
  },
});

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** Gives the data of an answer or throws its problem. */
export async function unwrap<T>(answer: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await answer;
  if (response.ok) return believed<T>(data);
  throw new ApiError(asProblem(error, response.status));
}

function asProblem(error: unknown, status: number): Problem {
  if (has(error, "title")) return believed<Problem>(error);
  return {
    type: "about:blank",
    title: `The server answered ${status}`,
    status,
    detail: "Try again in a moment.",
  };
}

/** Asks a calculator by its name; its description is in the catalogue. */
export async function calculate(calc: string, input: unknown): Promise<unknown> {
  const response = await send(`/api/v1/calc/${calc}`, JSON.stringify(input), "application/json");
  const body: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw new ApiError(asProblem(body, response.status));
  return body;
}

const send = (path: string, body: BodyInit, type: string, more: Record<string, string> = {}) =>
  fetch(path, {
    method: "POST",
    body,
    headers: { "X-CSRF-Token": csrf, "Content-Type": type, ...more },
  }).catch(() => {
    throw new Unreachable();
  });

/** Sends a picture; its body is the file itself. */
export async function sendPhoto(rebuild: string, file: File): Promise<string> {
  if (file.size > 12 * 1024 * 1024) {
    throw new ApiError({
      type: "about:blank",
      title: "Too large",
      status: 413,
      detail: "At most 12 MB can be sent at once. Take the picture smaller.",
    });
  }
  const response = await send(
    `/api/v1/rebuilds/${rebuild}/photos`,
    file,
    file.type || "application/octet-stream",
    // The same file sent again, after a line that broke, is kept once.
    { "Idempotency-Key": encodeURIComponent(`${file.name} ${file.size} ${file.lastModified}`).slice(0, 100) },
  );
  const body: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw new ApiError(asProblem(body, response.status));
  return believed<{ id: string }>(body).id;
}
