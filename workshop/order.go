package workshop

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/supply"
)

// orderKind: what has to come is listed, ordered, held against the old and taken in.
var orderKind = kind{
	name: book.Order,
	Nature: book.Nature{
		Check:   checkWeighs,
		Wants:   weighsWant,
		Misfits: weighsMisfit,
	},
	takes: []Act{ActWanted, ActOrdered, ActCame, ActDecision},
	needs: needsOrder,
	open: func(*State, *Step, time.Time) []OpenAct {
		return []OpenAct{{Act: ActWanted}, {Act: ActOrdered}, {Act: ActCame}, {Act: ActDecision}}
	},
	accept: acceptOrder,
	strike: strikeOrder,
	view:   viewOrder,
	usual:  usualOrder,
	says:   orderWords,
	lists:  true,
	leans:  whatIsBoughtFor,
	empty:  func() StepView { return &OrderStep{} },
}

// usualOrder: all that is to come is here and like the old.
func usualOrder(v StepView) Draft {
	x := v.(*OrderStep)
	var lines []OrderLine
	for _, g := range x.Groups {
		for _, l := range g.Lines {
			inKit := g.Kit != "" && l.Line != g.Kit
			if l.Asked && !inKit && l.State != LineHere && l.State != LineFitted && l.State != LineNotNeeded {
				lines = append(lines, OrderLine{Line: l.Line, Outcome: lineFits})
			}
		}
	}
	if len(lines) == 0 {
		return Draft{Act: ActDecision, Body: Body{Outcome: nothing}}
	}
	return Draft{Act: ActCame, Body: Body{Lines: lines}}
}

func orderWords(s *State, step *Step, e *Entry) string {
	b := e.Said()
	if e.Act == ActDecision {
		return withReason(wayNamed(s, b.Outcome), b)
	}
	names := map[string]string{}
	for _, p := range s.partsOf(step).lines {
		names[p.Line] = p.Name
	}
	for _, k := range s.on.sheet.Kits {
		names[kitPrefix+k.ID] = k.Name
	}
	words := make([]string, len(b.Lines))
	for i, o := range b.Lines {
		words[i] = o.words(cmp.Or(names[o.Line], o.Name, o.Line))
	}
	list := strings.Join(words, "; ")
	switch {
	case e.Act == ActWanted:
		return "on the list: " + list
	case e.Act == ActCame:
		return "came in: " + list
	case b.Due != "":
		return fmt.Sprintf("ordered from %s for %s: %s", b.Supplier, dayWords(b.Due), list)
	}
	return fmt.Sprintf("ordered from %s: %s", b.Supplier, list)
}

func wayNamed(s *State, id string) string {
	switch id {
	case nothing:
		return "nothing has to come"
	case waySingles:
		return "all as singles"
	}
	var names []string
	for _, k := range strings.Split(id, "+") {
		names = append(names, named(s.on.sheet.Kits, k, func(x supply.Kit) (string, string) { return x.ID, x.Name }))
	}
	return strings.Join(names, " and ")
}

// lineOutcomes say how a line turned out.
var lineOutcomes = map[string]string{
	lineWanted: "wanted after all", lineNotNeeded: "not needed",
	lineFits: "fits", lineRework: "made to fit", lineBack: "sent back",
	lineDepositBack: "the old one is back, deposit returned",
}

func (o OrderLine) words(name string) string {
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
		said += ", " + input.Plain(*o.Price)
	}
	if said = strings.TrimPrefix(said, ", "); said == "" {
		return name
	}
	return name + ", " + said
}

// whatIsBoughtFor are the steps before a parts list that ask for something.
func whatIsBoughtFor(p *Plan, list *Step) []*Step {
	return slices.DeleteFunc(slices.Clone(p.Steps[:list.at]), func(x *Step) bool { return x.kind.buys == nil })
}
