import { useEndSession, useSessions } from "../../data/session";
import { moment } from "../../model/moment";
import type { OpenSession } from "../../model/types";
import { Button } from "../../parts/Button";
import { Listed, Row } from "../../parts/Listed";
import { More } from "../../parts/More";

export function Sessions() {
  const list = useSessions();
  const end = useEndSession();
  return (
    <Listed
      title="Where you are signed in"
      list={list.data?.sessions}
      error={list.error ?? end.error}
      keyOf={(s) => s.id}
      row={(s) => (
        <Row
          title={s.this ? "This browser" : browserName(s)}
          says={`from ${s.address}, since ${moment(s.started)}, last used ${moment(s.used)}`}
        >
          {!s.this && (
            <Button onClick={() => end.mutate(s.id)} disabled={end.isPending}>
              Sign this one out
            </Button>
          )}
        </Row>
      )}
    >
      <More more={list.data?.more} look="End some of these." />
    </Listed>
  );
}

/** What a browser calls itself, short; the kind of machine is what tells them apart. */
function browserName(s: OpenSession) {
  const machine = /\(([^;)]+)/.exec(s.browser)?.[1];
  return machine ? `A browser on ${machine}` : s.browser.slice(0, 60) || "Unknown program";
}
