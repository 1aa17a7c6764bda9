import { useQueryClient } from "@tanstack/react-query";
import type { Assembly, CustomerPage, Vehicle } from "../../model/types";
import { changeUnit, customerQuery, giveVehicle, unitQuery, useCustomer } from "../../data/fleet";
import { useKept } from "../../parts/kept";

/** Who brings which unit of which vehicle, as it is being said; it survives a reload. */
export function useJob() {
  const cache = useQueryClient();
  const [customer, keepCustomer] = useKept("intake.customer");
  const [vehicle, keepVehicle] = useKept("intake.vehicle");
  const [unit, keepUnit] = useKept("intake.unit");
  const page = useCustomer(customer).data;
  const itsVehicle = page?.vehicles.find((v) => v.id === vehicle);
  const itsUnit = itsVehicle?.units?.find((u) => u.id === unit);

  const say = (c: string, v: string, u: string) => {
    keepCustomer(c);
    keepVehicle(v);
    keepUnit(u);
  };
  /** What is known of a customer is read anew after something of his was changed. */
  const again = (id: string) => cache.fetchQuery({ ...customerQuery(id), staleTime: 0 });

  return {
    customer: page,
    vehicle: itsVehicle,
    unit: itsUnit,
    say,
    async hasVehicle(v: Vehicle, owner: CustomerPage) {
      if (v.customer !== owner.id) await giveVehicle(v, owner.id);
      await again(owner.id);
      say(owner.id, v.id, "");
    },
    async hasUnit(u: Assembly, of: Vehicle, move: boolean) {
      if (move) await changeUnit(u.id, { vehicle: of.id });
      await again(of.customer ?? "");
      say(of.customer ?? "", of.id, u.id);
    },
    /** A unit said first says its vehicle, and that its owner. */
    async fromUnit(id: string) {
      const found = await cache.fetchQuery(unitQuery(id));
      const owner = found.vehicle.customer ?? "";
      await again(owner);
      say(owner, found.vehicle.id, id);
    },
    async fromVehicle(v: Vehicle) {
      await again(v.customer ?? "");
      say(v.customer ?? "", v.id, "");
    },
  };
}
