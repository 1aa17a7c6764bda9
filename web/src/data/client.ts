import createClient from "openapi-fetch";
import { ApiError, Unreachable } from "../model/problem";
import { believed, has } from "../model/json";
import type { paths } from "../model/schema.gen";
import type { Problem } from "../model/types";

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
    title: "Something went wrong on the server. Try again.",
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
      detail: "The picture is over 12 MB. Take a smaller one.",
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
