import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useLeads } from "../../data/session";
import { useShop } from "../../data/shop";
import { theme } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Page } from "../../parts/Page";
import { rooms } from "./rooms";
import { Settings } from "./Settings";

const room = "block px-5 py-3.5 border-b border-hair text-ink no-underline hover:bg-tint/40";

/** What belongs to the shop: its sheets, its drawers, its people, and what it says of itself. */
export function ShopView() {
  const leads = useLeads();
  const shop = useShop();
  const [kept, setKept] = useState(false); // here, for what was kept is shown anew
  const faults = [shop.data?.log_fault, shop.data?.backup_fault].filter(Boolean);
  return (
    <Page
      title={shop.data?.name || "Shop"}
      called="Shop"
      className="grid grid-cols-[340px_minmax(0,1fr)] max-[900px]:grid-cols-1 gap-5 items-start"
    >
      <nav aria-label="Shop pages" className="bg-sheet border border-ink">
        {rooms.map((r) => (
          <Link key={r.to} to={r.to} className={room}>
            <span className="block text-head">{r.title}</span>
            <span className="text-quiet">{r.says}</span>
          </Link>
        ))}
        <div className="px-5 py-3.5 flex items-center justify-between">
          <span className="text-quiet">This screen</span>
          <Button hint="D" onClick={theme.turn}>
            Light or dark
          </Button>
        </div>
      </nav>
      <div className="flex flex-col gap-5">
        <Fault error={shop.error} />
        {faults.map((fault) => (
          <p
            key={fault}
            role="alert"
            className="bg-sheet border border-out border-l-6 px-4 py-3 text-line font-semibold"
          >
            {fault}
          </p>
        ))}
        {shop.data && leads && (
          <Settings
            key={JSON.stringify(shop.data)}
            shop={shop.data}
            kept={kept}
            onKept={() => setKept(true)}
          />
        )}
      </div>
    </Page>
  );
}
