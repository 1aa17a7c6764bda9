import { expect, it } from "vitest";
import { plausible } from "./plausible";
import { signIn, tomorrow } from "./signin";

/** A route has at most so many entries; more is a step that takes them and is never done. */
const most = 600;

const routes = ["shift-linkage", "transfer-case-dog", "clutch-hydraulic", "axle-ring-pinion"];

it.each(routes)(
  "a client made from the description walks %s to the hand-over",
  { timeout: 240_000 },
  async (route) => {
    const client = await signIn("ilva");
    const fleet = await client.GET("/api/v1/fleet");
    const vehicle = fleet.data?.vehicles.find((v) => v.units?.some((u) => u.route === route));
    const unit = vehicle?.units?.find((u) => u.route === route);
    const opened = await client.POST("/api/v1/rebuilds", {
      params: { header: { "Idempotency-Key": `walk-open-${route}` } },
      body: {
        vehicle: vehicle?.id ?? "",
        unit: unit?.id ?? "",
        complaint: "It is hard to shift.",
        promised: tomorrow(),
      },
    });
    const id = opened.data?.id ?? "";
    let entries = 0;
    for (; entries < most; entries++) {
      const sheet = await client.GET("/api/v1/rebuilds/{id}", { params: { path: { id } } });
      if (sheet.data?.rebuild.place.closed) break;
      const open = sheet.data?.steps.find((s) => s.status === "open");
      const path = { id, step: open?.id ?? "" };
      const step = await client.GET("/api/v1/rebuilds/{id}/steps/{step}", { params: { path } });
      const draft = step.data && plausible(step.data);
      if (!draft) throw new Error(`nothing to say at ${path.step}: ${step.data?.needs}`);
      const kept = await client.POST("/api/v1/rebuilds/{id}/steps/{step}/entries", {
        params: { path, header: { "Idempotency-Key": `walk-${route}-${entries}` } },
        body: draft,
      });
      if (kept.error)
        throw new Error(`${path.step}: ${JSON.stringify(draft)}: ${JSON.stringify(kept.error)}`);
    }
    expect(entries).toBeLessThan(most);
    const record = await client.GET("/api/v1/rebuilds/{id}/record", { params: { path: { id } } });
    expect(record.data?.signed_by).toBeTruthy();
    const archive = await client.GET("/api/v1/rebuilds/{id}/archive.json", { params: { path: { id } } });
    expect(archive.data?.format).toBe("handwerk-archive/1");
    expect(archive.data?.entries).toHaveLength(entries);
  },
);
