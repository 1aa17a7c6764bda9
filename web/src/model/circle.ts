import { placed } from "./number";

type Ask = { id: string; feeds?: string };
type Asked = { ask: Ask; answered: boolean };
type Taken = { act: "reading"; item: string; value: string };
type Placed = { clock: number; reading: string };

/** The clock position that an answer is read at; undefined where it is none. */
function clockOf(ask: Ask, places: readonly { clock?: number | undefined }[]): number | undefined {
  const n = /^readings\[(\d+)\]\.reading$/.exec(ask.feeds ?? "")?.[1];
  return n === undefined ? undefined : places[placed(n)]?.clock;
}

/**
 * What a whole turn says of what is asked: each place of the clock that is still open, in
 * the order of turning, up to the way back to 12. Between two turns one asks again.
 */
export function circleDrafts(
  asked: readonly Asked[],
  places: readonly { clock?: number | undefined }[],
  circle: readonly Placed[],
): Taken[] {
  const drafts: Taken[] = [];
  let turned = false;
  for (const { ask, answered } of asked) {
    const clock = clockOf(ask, places);
    if (clock === undefined) continue;
    const back = turned && clock % 12 === 0;
    turned = true;
    if (answered) continue;
    const reading = (back ? circle.at(-1) : circle.find((p) => p.clock % 12 === clock % 12))?.reading;
    if (reading === undefined) continue;
    drafts.push({ act: "reading", item: ask.id, value: reading });
    if (back) break;
  }
  return drafts;
}
