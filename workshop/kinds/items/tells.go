package items

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Bad are the lines of a step that are not as they should be; their items
// are those of the lines.
func (of Of) Bad(s *record.State, step *record.Step) (list []record.Point) {
	for _, item := range of(step) {
		said, e := record.FindAct[acts.Outcome](s, step, record.ReadPlace(item.ID))
		if said == nil {
			continue
		}
		o, known := record.OutcomeOf(item, said.Outcome)
		if !known || o.Good {
			continue
		}
		list = append(list, record.Point{
			Step: step.ID, Title: step.Title, Says: say.Of(item.Text, say.Lower(o.Text)), By: e.By.Name,
			Left: strings.TrimSpace(said.Note), Item: item.ID,
		})
	}
	return list
}

// outcomeRenew is the answer of a line that asks for a new part.
const outcomeRenew = "renew"

// buysRenewed are the lines of a check that are to be renewed; what a stack asks
// for by the same name is the same part.
func buysRenewed(s *record.State, step *record.Step) (list []record.ToBuy, all bool) {
	for _, item := range step.Items {
		said, _ := record.FindAct[acts.Outcome](s, step, record.ReadPlace(item.ID))
		if said == nil || said.Outcome != outcomeRenew {
			continue
		}
		list = append(list, record.ToBuy{
			Line: step.ID + "." + item.ID, Name: item.Text, Pieces: 1, Asked: true, ByName: true,
			Why: cmp.Or(said.Note, "needs replacing: "+say.Lower(step.Title)),
		})
	}
	return list, true
}

// sumsItems counts what was proved on the road.
func sumsItems(s *record.State, step *record.Step, sum *record.Summary) {
	if book.StationAt(step.Station) != book.StationAt(book.ProveAt) {
		return
	}
	for _, item := range step.Items {
		if _, ok := s.At(step).Has(acts.Outcome{}, record.ReadPlace(item.ID)); ok {
			sum.Tried++
		}
	}
	for _, p := range ofStep.Bad(s, step) {
		sum.Bad = append(sum.Bad, p.Says)
	}
}

func (of Of) words(_ *record.State, step *record.Step, e *record.Entry) string {
	lines, at, b := of(step), e.Item, record.As[acts.Outcome](e)
	i := slices.IndexFunc(lines, func(x book.Item) bool { return record.ReadPlace(x.ID) == at })
	if i < 0 {
		return at.String()
	}
	item := lines[i]
	if b.Value.IsSaid() {
		return say.Of(item.Text, b.Words())
	}
	o, _ := record.OutcomeOf(item, b.Outcome)
	words := item.Text
	switch {
	case item.Text == step.Title && o.Text != "":
		words = o.Text
	case o.Text != "":
		words = say.Of(item.Text, say.Lower(o.Text))
	}
	if b.Minutes > 0 {
		words += ", " + say.Several(int(b.Minutes), "minute", "minutes")
	}
	return words
}
