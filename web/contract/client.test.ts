import createClient, { type Middleware } from "openapi-fetch";
import { expect, it } from "vitest";
import type { paths } from "../src/model/schema.gen";

const baseUrl = process.env["HANDWERK_BASE"] ?? "";

/**
 * What the description's security schemes ask for, as any client would keep it:
 * the cookie that signing in sets, and the session's token on writes.
 */
function signedIn(cookie: string, csrf: string): Middleware {
  return {
    onRequest({ request }) {
      request.headers.set("Cookie", cookie);
      request.headers.set("X-CSRF-Token", csrf);
    },
  };
}

it("a client made from the description opens a rebuild and takes 24 thou", async () => {
  const client = createClient<paths>({ baseUrl, headers: { Origin: baseUrl } });
  const login = await client.POST("/api/v1/session", {
    body: { login: "ilva", password: "tide-and-torque" },
  });
  const cookie = login.response.headers
    .getSetCookie()
    .map((c) => c.split(";")[0])
    .join("; ");
  client.use(signedIn(cookie, login.data?.csrf ?? ""));

  const fleet = await client.GET("/api/v1/fleet");
  const vehicle = fleet.data?.vehicles.find((v) => v.units?.some((u) => u.route === "transfer-case-dog"));
  const unit = vehicle?.units?.find((u) => u.route === "transfer-case-dog");
  const order = {
    vehicle: vehicle?.id ?? "",
    unit: unit?.id ?? "",
    complaint: "It bangs out of low.",
    promised: tomorrow(),
  };
  const opened = await client.POST("/api/v1/rebuilds", {
    params: { header: { "Idempotency-Key": "contract-open" } },
    body: order,
  });
  expect(opened.response.status).toBe(201);

  const path = { id: opened.data?.id ?? "", step: "end-float" };
  const step = await client.GET("/api/v1/rebuilds/{id}/steps/{step}", { params: { path } });
  if (step.data?.kind !== "measure") throw new Error("the end float is measured");
  expect(step.data.acts.map((a) => a.act)).toContain("override");
  const write = (key: string) => ({
    path,
    header: { "Idempotency-Key": key, Prefer: "return=representation" as const },
  });
  await client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
    params: write("contract-gate"),
    body: { act: "override", reason: "to try the description" },
  });
  const taken = await client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
    params: write("contract-reading"),
    body: { act: "reading", value: "24 thou" },
  });
  expect(taken.error).toBeUndefined();
  expect(taken.data?.body.value).toEqual({ value: 24, unit: "thou" });
  const now = taken.data?.now?.step;
  if (now?.kind !== "measure") throw new Error("the answer carries the step");
  expect(now.trials[0]?.readings).toHaveLength(1);

  const next = await client.GET("/api/v1/board", { params: { query: { closed: "perhaps" as "true" } } });
  expect(next.response.status).toBe(422);
  expect(next.error?.fields?.[0]?.path).toBe("closed");
});

const tomorrow = () => new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
