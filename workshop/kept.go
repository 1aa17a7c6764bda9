package workshop

import (
	"context"
	"encoding/json"
	"slices"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// What a rebuild taught is kept by a lead for the next one: a figure, the parts
// as they came off, a kit.

// KitMade is a kit that a shop puts together from lines of a parts list.
type KitMade struct {
	Step     string         `json:"step"` // where the list stands
	Name     string         `json:"name"`
	Supplier string         `json:"supplier"`
	Price    quantity.Money `json:"price"` // of all of it
	Lead     quantity.Count `json:"lead_days"`
	Lines    []string       `json:"lines"` // that it brings
}

// KeepKit writes a kit made of lines of a parts list into the family's sheet.
func (w *Workshop) KeepKit(ctx context.Context, rebuild string, made KitMade, by people.Person) (shop.SheetPage,
	error) {
	l, err := w.keeping(ctx, rebuild, by)
	if err != nil {
		return shop.SheetPage{}, err
	}
	step, ok := l.Plan.Step(made.Step)
	if !ok || !step.Rules.Lists {
		return shop.SheetPage{}, input.At("step", "the step with the parts list", "%q has no parts list", made.Step)
	}
	sheet, err := w.Sheets.Find(ctx, l.Rebuild.Unit.Sheet)
	if err != nil {
		return shop.SheetPage{}, err
	}
	kit, err := made.kit(buying.PartsOf(l.State(), step))
	if err != nil {
		return shop.SheetPage{}, err
	}
	sheet.Kits = append(slices.Clone(sheet.Kits), kit)
	return w.Sheets.Write(ctx, sheet, "from "+l.Rebuild.Number+": a kit from its parts list", by)
}

// kit is what was made, with the pieces the list asks for.
func (m KitMade) kit(list *buying.PartsList) (supply.Kit, error) {
	var faults input.Fields
	kit := supply.Kit{
		ID: "own-" + say.NewID(), Name: say.OneLine(&faults, "name", m.Name, 1, 120),
		Supplier: say.OneLine(&faults, "supplier", m.Supplier, 1, 120),
		Price:    m.Price, Lead: m.Lead, Holds: supply.Holds{},
	}
	if m.Price < 0 || m.Price > quantity.MostMoney {
		faults.Add("price", "an amount from 0, like 12.50", "%s is not an amount", m.Price)
	}
	if m.Lead < 0 || m.Lead > 1000 {
		faults.Add("lead_days", "days from ordering, 0 to 1000", "%d days is not possible", m.Lead)
	}
	for i, line := range m.Lines {
		p := list.Line(line)
		if p == nil || p.Unit == "" {
			faults.Add(input.Index("lines", i), "a part of the unit that is on the list", "%q is not on the list", line)
			continue
		}
		kit.Holds[p.Unit] += int(max(1, p.Pieces))
	}
	if len(m.Lines) == 0 {
		faults.Add("lines", "at least one part of the list", "a kit of nothing")
	}
	return kit, faults.Err()
}

// keeping reads a rebuild for a lead who keeps something of it.
func (w *Workshop) keeping(ctx context.Context, rebuild string, by people.Person) (record.Ledger, error) {
	if by.Role != people.Lead {
		return record.Ledger{}, say.Refuse(say.Forbidden, say.LeadSheets)
	}
	return w.store.Ledger(ctx, rebuild)
}

// KeepFigure writes what was said at a bench into the unit's spec sheet, or into
// the vehicle's where it belongs to that.
func (w *Workshop) KeepFigure(ctx context.Context, rebuild, entry string, by people.Person) (shop.SheetPage, error) {
	l, err := w.keeping(ctx, rebuild, by)
	if err != nil {
		return shop.SheetPage{}, err
	}
	s := l.State()
	i := slices.IndexFunc(s.Entries, func(e record.Entry) bool { return e.ID == entry && e.Is(acts.Figure{}) })
	if i < 0 || s.Superseded[i] > 0 || slices.Contains([]acts.Origin{acts.NotKnown, acts.NotHere, acts.BySize},
		record.As[acts.Figure](&s.Entries[i]).Origin) {
		return shop.SheetPage{}, input.At(
			"entry",
			"a figure that was entered in this rebuild",
			"there is no such figure",
		)
	}
	e := s.Entries[i]
	said := record.As[acts.Figure](&e)
	sheet, err := w.Sheets.Find(ctx, record.HolderOf(l, e))
	if err != nil {
		return shop.SheetPage{}, err
	}
	if err := sheet.Lay(e.Item.Name, said.Figure); err != nil {
		return shop.SheetPage{}, err
	}
	return w.Sheets.Write(ctx, sheet, "from "+l.Rebuild.Number+": "+said.Origin.Words(), by)
}

// KeepStack writes the parts of a unit, as they came off in a rebuild, into its
// family's sheet: the next one is taken apart by them.
func (w *Workshop) KeepStack(ctx context.Context, rebuild, step string, by people.Person) (shop.SheetPage, error) {
	l, err := w.keeping(ctx, rebuild, by)
	if err != nil {
		return shop.SheetPage{}, err
	}
	removal, ok := l.Plan.Step(step)
	if !ok || !stack.TakesApart(removal.Step) {
		return shop.SheetPage{}, input.At("step", "a step that takes parts off", "%q takes no parts off", step)
	}
	parts := stack.CameOff(l.State(), removal)
	if len(parts) == 0 {
		return shop.SheetPage{}, say.Refuse(say.Conflict, say.NothingCameOff)
	}
	sheet, err := w.Sheets.Find(ctx, l.Rebuild.Unit.Sheet)
	if err != nil {
		return shop.SheetPage{}, err
	}
	raw, err := json.Marshal(parts)
	if err != nil {
		return shop.SheetPage{}, err
	}
	if err := sheet.Lay("stacks."+step, raw); err != nil {
		return shop.SheetPage{}, err
	}
	return w.Sheets.Write(ctx, sheet, "from "+l.Rebuild.Number+": parts list from this rebuild", by)
}

// TakeFrom says which drawer of the shop a step's packs come from, for every
// rebuild of the family.
func (w *Workshop) TakeFrom(ctx context.Context, rebuild, step, drawer string, by people.Person) error {
	if err := people.MayWrite(by); err != nil {
		return err
	}
	l, err := w.store.Ledger(ctx, rebuild)
	if err != nil {
		return err
	}
	s, ok := l.Plan.Step(step)
	switch {
	case !ok:
		return say.Refuse(say.NotFound, say.NoSuchStep, step)
	case s.Measure == nil || s.Measure.Drawer == "":
		return input.At("drawer", "nothing", "no pack is fitted at this step")
	}
	return w.store.KeepFamilyDrawer(ctx, l.Plan.Sheet.ID, s.Measure.Drawer, drawer)
}
