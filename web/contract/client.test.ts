import { expect, it } from "vitest";
import { signIn, tomorrow } from "./signin";

it("a client made from the description opens a rebuild and takes 24 thou", async () => {
  const client = await signIn("ilva");
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
  for (const want of step.data.wants ?? [])
    await client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
      params: write(`contract-looked-${want.key}`),
      body: { act: "stands", item: want.key, outcome: want.state },
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
