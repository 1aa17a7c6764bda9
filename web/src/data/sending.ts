import { type Attempt, Outbox, type Waiting } from "./outbox";
import { refusalInWords } from "./refusal";
import { ApiError } from "../model/problem";
import { client, unwrap } from "./client";

/** A refusal is final; anything else may go through later. */
const isFinal = (e: unknown) =>
  e instanceof ApiError && e.status < 500 && e.status !== 401 && e.status !== 429;

async function post(w: Waiting): Promise<Attempt> {
  try {
    const entry = await unwrap(
      client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
        params: {
          path: { id: w.rebuild, step: w.step },
          header: { "Idempotency-Key": w.key, Prefer: "return=representation" }, // how the step stands comes along
        },
        body: w.draft,
      }),
    );
    return { is: "taken", entry };
  } catch (error) {
    return isFinal(error) ? { is: "refused", error } : { is: "away" };
  }
}

export const outbox = new Outbox({ post, words: refusalInWords });
