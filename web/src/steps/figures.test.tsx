// @vitest-environment jsdom
import "fake-indexeddb/auto";
import { screen } from "@testing-library/react";
import { expect, it } from "vitest";
import { outbox } from "../data/sending";
import { stage } from "../test/stage";
import { at } from "../test/step";
import { FiguresSaid } from "./Figures";

const figure = (path: string, entry: string) => ({ path, called: path, says: "130 N·m", by: "Ilva", entry });

it("offers no figure to the sheet while it is on its way to the record", () => {
  outbox
    .say({
      key: "waits",
      by: "ilva",
      rebuild: "r",
      step: "step",
      title: "A step",
      draft: { act: "note", note: "nobody answers here" },
    })
    .catch(() => undefined);
  const figures = [figure("torques.wheels", "waits"), figure("torques.caps", "landed")];
  stage(<FiguresSaid {...at("torque", { figures })} />, { person: { login: "ilva", role: "lead" } });
  const offers = screen.getAllByRole("button", { name: /Save to the spec sheet/ });
  expect(offers.map((b) => b.textContent)).toEqual([expect.stringContaining("torques.caps")]);
});
