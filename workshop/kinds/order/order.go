// Package order is the step at which the parts list is ordered, held against the
// old parts and taken in.
package order

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/supply"
	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Kind: what has to come is listed, ordered, held against the old and taken in.
var Kind = record.Kind{
	Name: book.Order,
	Nature: book.Nature{
		Check:   measure.CheckWeighs,
		Wants:   measure.WeighsWant,
		Misfits: measure.WeighsMisfit,
	},
	Takes: []*record.Act{
		{Act: acts.Wanted{}, Accept: acceptWanted, Says: wantedWords, Paper: hidePrices(wantedWords), Many: true},
		{Act: acts.Ordered{}, Accept: acceptOrdered, Says: orderedWords, Paper: hidePrices(orderedWords), Many: true},
		{
			Act:    acts.Came{},
			Accept: acceptCame,
			Strike: strikeCame,
			Says:   cameWords,
			Paper:  hidePrices(cameWords),
			Many:   true,
		},
		{Act: acts.Decision{}, Accept: acceptWay, Says: wayTakenWords},
	},
	Needs: needsOrder,
	Open: func(*record.State, *record.Step, time.Time) []record.OpenAct {
		return []record.OpenAct{
			record.MayDo(
				acts.Wanted{},
			),
			record.MayDo(acts.Ordered{}),
			record.MayDo(acts.Came{}),
			record.MayDo(acts.Decision{}),
		}
	},
	View:  viewOrder,
	Usual: usualOrder,
	Lists: true,
	Leans: whatIsBoughtFor,
	Empty: func() record.StepView { return &OrderStep{} },
}

// usualOrder: all that is to come is here and like the old.
func usualOrder(v record.StepView) record.Draft {
	x := v.(*OrderStep)
	var lines []acts.OrderLine
	for _, g := range x.Groups {
		for _, l := range g.Lines {
			inKit := g.Kit != "" && l.Line != g.Kit
			if l.Asked && !inKit && l.State != buying.LineHere && l.State != buying.LineFitted &&
				l.State != buying.LineNotNeeded {
				lines = append(lines, acts.OrderLine{Line: l.Line, Outcome: buying.Fits})
			}
		}
	}
	if len(lines) == 0 {
		return record.Draft{Says: &acts.Decision{Outcome: buying.NothingComes}}
	}
	return record.Draft{Says: &acts.Came{Lines: lines}}
}

func wayTakenWords(s *record.State, _ *record.Step, e *record.Entry) string {
	said := record.As[acts.Decision](e)
	return record.WithReason(wayNamed(s, said.Outcome), said)
}

func wantedWords(s *record.State, step *record.Step, e *record.Entry) string {
	return "on the list: " + linesWords(s, step, e)
}

func cameWords(s *record.State, step *record.Step, e *record.Entry) string {
	return "arrived: " + linesWords(s, step, e)
}

func orderedWords(s *record.State, step *record.Step, e *record.Entry) string {
	said, list := record.As[acts.Ordered](e), linesWords(s, step, e)
	if said.Due != "" {
		return fmt.Sprintf("ordered from %s for %s: %s", said.Supplier, say.DayWords(said.Due), list)
	}
	return fmt.Sprintf("ordered from %s: %s", said.Supplier, list)
}

// hidePrices are the words for the customer's paper: what the house pays is no matter of it.
func hidePrices(words func(*record.State, *record.Step, *record.Entry) string) func(*record.State, *record.Step,
	*record.Entry) string {
	return func(s *record.State, step *record.Step, e *record.Entry) string {
		said := acts.Copy(e.ReadAct())
		acts.SetLines(said, func(o acts.OrderLine) acts.OrderLine {
			o.Price, o.Deposit = nil, nil
			return o
		})
		plain := e.Saying(said)
		return words(s, step, &plain)
	}
}

func linesWords(s *record.State, step *record.Step, e *record.Entry) string {
	names := map[string]string{}
	for _, p := range buying.PartsOf(s, step).Lines {
		names[p.Line] = p.Name
	}
	for _, k := range s.On.Sheet.Kits {
		names[buying.KitPrefix+k.ID] = k.Name
	}
	var words []string
	for _, o := range acts.LinesOf(e.ReadAct()) {
		words = append(words, lineWords(s, o, cmp.Or(names[o.Line], o.Name, o.Line)))
	}
	return strings.Join(words, "; ")
}

func wayNamed(s *record.State, id string) string {
	switch id {
	case buying.NothingComes:
		return "no parts needed"
	case buying.WaySingles:
		return "all as single parts"
	}
	var names []string
	for _, k := range strings.Split(id, "+") {
		names = append(names, say.NameOf(s.On.Sheet.Kits, k,
			func(x supply.Kit) (string, string) { return x.ID, x.Name }))
	}
	return strings.Join(names, " and ")
}

// lineOutcomes say how a line turned out.
var lineOutcomes = map[string]string{
	buying.WantedAfterAll: "needed after all", buying.NotNeeded: "not needed",
	buying.Fits: "fits", buying.MadeToFit: "reworked to fit", buying.SentBack: "sent back",
	buying.DepositBack: "old unit returned, deposit back",
}

func lineWords(s *record.State, o acts.OrderLine, name string) string {
	if o.Pieces > 1 {
		name = fmt.Sprintf("%d %s", o.Pieces, name)
	}
	said := lineOutcomes[o.Outcome]
	for _, c := range o.Compared {
		if !c.Same {
			said += fmt.Sprintf(", %s %s, not %s", c.What, c.New, c.Old)
		}
	}
	for _, x := range o.Sent {
		said += ", " + strings.Join(strings.Fields(x.What+" "+x.Reads), " ")
		if x.Agreed != "" {
			said += ", agreed " + x.Agreed
		}
	}
	if o.Reason != "" {
		said += ", " + o.Reason
	}
	if o.Price != nil {
		said += ", " + say.Money(*o.Price, s.Currency)
	}
	if said = strings.TrimPrefix(said, ", "); said == "" {
		return name
	}
	return name + ", " + said
}

// whatIsBoughtFor are the steps before a parts list that ask for something.
func whatIsBoughtFor(p *record.Plan, list *record.Step) []*record.Step {
	return slices.DeleteFunc(slices.Clone(p.Steps[:list.At]), func(x *record.Step) bool { return x.Rules.Buys == nil })
}

// needsOrder tells what the parts still ask for.
func needsOrder(s *record.State, step *record.Step) record.Need {
	l := buying.PartsOf(s, step)
	c := buying.PurchaseOf(s, l)
	stands := c.Stands()
	open, awaited, due, undated := 0, 0, "", false
	for _, p := range stands {
		switch {
		case p.IsOpen():
			open++
		case p.IsAwaited():
			awaited++
			due, undated = max(due, p.Due), undated || p.Due == ""
		}
	}
	switch {
	case open > 0:
		return record.Need{What: record.PartsToOrder, Count: open}
	case awaited > 0:
		n := record.Need{What: record.PartsAwaited, Count: awaited, Due: due,
			Late: max(0, say.DaysBetween(s.Promised, due))}
		if undated {
			n.Names = []string{"some have no date"}
		}
		return n
	}
	if unseen := buying.Unseen(s, step); len(unseen) > 0 {
		return record.Need{What: record.PartsLooked, Names: unseen}
	}
	if len(stands) == 0 && !l.Nothing && !slices.ContainsFunc(l.Lines,
		func(p *buying.ListPart) bool { return p.Dropped }) {
		return record.Need{What: record.PartsSaid}
	}
	return record.Need{}
}
