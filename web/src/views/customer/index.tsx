import { useParams } from "@tanstack/react-router";
import { useCustomer } from "../../data/fleet";
import { day } from "../../model/moment";
import { Fault } from "../../parts/Fault";
import { Page } from "../../parts/Page";
import { Brought } from "./Brought";
import { Reached } from "./Reached";

/** Somebody who brings units: how he is reached, what he brought, and what is kept of him. */
export function CustomerView() {
  const { id = "" } = useParams({ strict: false });
  const page = useCustomer(id);
  const c = page.data;
  const name = c?.erased_at ? "Name erased" : (c?.name ?? "");
  return (
    <Page
      title={name || "Customer"}
      called={name}
      className="grid grid-cols-[minmax(0,1fr)_360px] max-[1000px]:grid-cols-1 gap-5 items-start"
    >
      <Fault error={page.error} />
      {c && <Brought page={c} />}
      {c && !c.erased_at && <Reached key={c.id} page={c} />}
      {c?.erased_at && (
        <p className="bg-sheet border border-ink p-5">
          This customer's details were erased on {day(c.erased_at)}. The records of their units remain and
          still verify.
        </p>
      )}
    </Page>
  );
}
