package workshop

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// checkKind: lines to look at, each answered once.
var checkKind = kind{
	name: book.Check,
	Nature: book.Nature{
		Check:   checkItems,
		Wants:   weighsWant,
		Misfits: weighsMisfit,
		Sample:  itemSample,
	},
	takes:  []Act{ActOutcome},
	needs:  needsItems,
	open:   openItems,
	accept: acceptOutcome,
	view: func(v viewer, f StepFrame) (_ StepView, err error) {
		f.Weighed, err = v.weighed()
		return &CheckStep{f, book.Check, AnsweredLines{itemViews(v)}}, err
	},
	bad:   badAnswers,
	buys:  buysRenewed,
	sums:  sumsItems,
	gives: givesItem,
	usual: func(v StepView) Draft {
		x := v.(*CheckStep)
		return usualOutcome(x.Items, x.StepFrame)
	},
	says:  func(_ *State, step *Step, e *Entry) string { return outcomeWords(step, e.Item, e.Said()) },
	empty: func() StepView { return &CheckStep{} },
}

// CheckStep is a check as the bench shows it.
type CheckStep struct {
	StepFrame
	Kind book.Kind `json:"kind" const:"check"`
	AnsweredLines
}

// AnsweredLines are what is answered one by one.
type AnsweredLines struct {
	Items []ItemView `json:"items"`
}

// cautionsAt are those of the line that a draft answers.
func (l AnsweredLines) cautionsAt(d Draft) []CautionView {
	i := slices.IndexFunc(l.Items, func(x ItemView) bool { return ReadPlace(x.ID) == d.Item && d.Act == ActOutcome })
	if i < 0 {
		return nil
	}
	return l.Items[i].Cautions
}

// ItemView is one line with the answers it takes; none where a value is asked.
type ItemView struct {
	ID       string             `json:"id"`
	Text     string             `json:"text"`
	Answers  []Answer           `json:"answers"`
	Value    quantity.Dimension `json:"value,omitempty"`
	Units    []string           `json:"units,omitempty"` // to type it in
	Optional bool               `json:"optional,omitempty"`
	Picture  bool               `json:"picture,omitempty"` // one is worth taking
	// Cautions are those of this line; grave ones are read before it is answered.
	Cautions []CautionView `json:"cautions,omitempty"`
	Needs    []string      `json:"needs,omitempty"` // what the vehicle must be able to
	// Unsettled: its answer is not good, and nobody said yet what comes of it.
	Unsettled bool `json:"unsettled,omitempty"`
}

// Answer is one outcome that is taken now.
type Answer struct {
	ID     string `json:"id"`
	Text   string `json:"text"`
	Good   bool   `json:"good,omitempty"`   // needs no attention
	Reason bool   `json:"reason,omitempty"` // wants one in words
	Not    string `json:"not,omitempty"`    // why it is not taken here
}

// plainOutcomes are those of a check whose items list none.
var plainOutcomes = []book.Outcome{{ID: "done", Text: "Done", Good: true}, {ID: "not-done", Text: "Not as it should be"}}

// outcomesOf an item, the plain ones filled in.
func outcomesOf(i book.Item) []book.Outcome {
	if len(i.Outcomes) == 0 && i.Value == "" {
		return plainOutcomes
	}
	return i.Outcomes
}

func itemViews(at viewer) []ItemView {
	views := make([]ItemView, 0, len(at.step.Items))
	bad := map[string]bool{}
	if at.step.isJudged() && !at.state.isSigned() {
		for _, p := range badAnswers(at.state, at.step) {
			bad[p.Item] = p.Left == ""
		}
	}
	for _, i := range at.step.Items {
		v := ItemView{
			ID: i.ID, Text: i.Text, Answers: []Answer{}, Value: i.Value, Optional: i.Optional, Picture: i.Picture,
			Cautions: cautionViews(at.ledger, at.state, at.step, i.Cautions), Needs: i.Needs, Unsettled: bad[i.ID],
		}
		if i.Value != "" {
			v.Units = quantity.ChoicesIn(at.state.units, quantity.DefaultUnit(i.Value))
		}
		for _, o := range outcomesOf(i) {
			v.Answers = append(v.Answers, Answer{ID: o.ID, Text: o.Text, Good: o.Good, Reason: o.Reason})
		}
		views = append(views, v)
	}
	return views
}

// checkItems looks at the lines of a check.
func checkItems(c *book.Checker, at string, s book.Step) {
	if s.FromBook != "" {
		c.Add(input.Join(at, "from_book"), "complaint or tests, at a test", "%q gives no lines here", s.FromBook)
	}
	itemsThere(c, input.Join(at, "items"), s)
	checkWeighs(c, at, s)
	eachItem(c, at, s)
}

func itemsThere(c *book.Checker, at string, s book.Step) {
	if len(s.Items) == 0 && s.Beside == "" && s.FromBook == "" {
		c.Add(at, "at least one item, or beside: an earlier test", "nothing to look at")
	}
}

func eachItem(c *book.Checker, at string, s book.Step) {
	book.Unique(c, input.Join(at, "items"), s.Items, func(i book.Item) string { return i.ID })
	for i, item := range s.Items {
		checkItem(c, input.Index(input.Join(at, "items"), i), s, item)
	}
	if s.Beside != "" {
		if other, ok := c.Earlier(s.Beside); !ok || other.Kind != book.Test {
			c.Add(input.Join(at, "beside"), "an earlier test", "%q is not one", s.Beside)
		}
	}
}

func checkItem(c *book.Checker, path string, s book.Step, item book.Item) {
	if item.Answers != "" && !c.Known().Answers[item.Answers] {
		c.Add(input.Join(path, "answers"), "a list of answers of the book", "%q is not one", item.Answers)
	}
	if item.Test != "" && !c.Known().Tests[item.Test] {
		c.Add(input.Join(path, "test"), "a test of the book", "%q is not one", item.Test)
	}
	if item.Test == "" {
		c.Text(input.Join(path, "text"), item.Text)
	}
	book.Unique(c, input.Join(path, "outcomes"), item.Outcomes, func(o book.Outcome) string { return o.ID })
	if len(item.Outcomes) == 0 && item.Value == "" && item.Answers == "" && item.Test == "" && s.Kind == book.Test {
		c.Add(input.Join(path, "outcomes"), "outcomes, answers, test, or value: temperature", "a test needs outcomes to choose from")
	}
	if item.Value != "" && quantity.DefaultUnit(item.Value) == "" {
		c.Add(input.Join(path, "value"), "length, torque, volume, temperature, time, count", "%q is not measured here", item.Value)
	}
	if item.Same != (book.ItemAt{}) {
		earlier, _ := c.Earlier(item.Same.Step)
		same := func(x book.Item) bool { return x.ID == item.Same.Item && x.Value == item.Value }
		if item.Value == "" || !slices.ContainsFunc(earlier.Items, same) {
			c.Add(input.Join(path, "same"), "step.item of an earlier value of the same kind", "%q is none", item.Same)
		}
	}
}

// itemSample: later steps take the values that were typed.
func itemSample(s book.Step, what []string) (any, bool) {
	i := slices.IndexFunc(s.Items, func(i book.Item) bool { return i.ID == what[0] && i.Value != "" })
	if i < 0 {
		return nil, false
	}
	return one(quantity.DefaultUnit(s.Items[i].Value)), true
}

func givesItem(s *State, step *Step, what []string) (any, bool, error) {
	return saidAt(s, step, ActOutcome, ReadPlace(what[0]), func(b Body) any { return b.Value })
}

// saidAt is what the entry at a place said; errNotYet while there is none.
func saidAt(s *State, step *Step, act Act, at Place, of func(Body) any) (any, bool, error) {
	e, ok := s.of(step).has(act, at)
	if !ok {
		return nil, false, errNotYet
	}
	return of(e.Said()), true, nil
}

func needsItems(s *State, step *Step) Need {
	left, done, ended := 0, 0, false
	for _, item := range step.Items {
		e, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID))
		switch {
		case ok && e.Verdict == metrology.Out:
			return Need{What: Differs, Place: ReadPlace(item.ID)}
		case ok:
			done++
			ended = ended || endsWith(item, e)
		case !item.Optional:
			left++
		}
	}
	if bad, is := s.leftOpen(step); is {
		return bad
	}
	if ended {
		return Need{}
	}
	if left == 0 && done == 0 && len(step.Items) > 0 {
		return Need{What: OneLine}
	}
	return countedNeed(Lines, left)
}

func openItems(*State, *Step, time.Time) []OpenAct { return []OpenAct{{Act: ActOutcome}} }

const mostMinutes = 24 * 60

func acceptOutcome(p *proposal) error {
	if p.draft.Minutes < 0 || p.draft.Minutes > mostMinutes {
		return input.At("minutes", "1 to 1440", "%d minutes cannot be", p.draft.Minutes)
	}
	i := slices.IndexFunc(p.step.Items, func(x book.Item) bool { return ReadPlace(x.ID) == p.draft.Item })
	if i < 0 {
		return input.At("item", idsOf(p.step.Items, func(x book.Item) string { return x.ID }), "%q is not a line of this step", p.draft.Item.String())
	}
	item := p.step.Items[i]
	if item.Value != "" && p.draft.Outcome == "" {
		if err := p.valueOf(item.Value); err != nil || item.Same == (book.ItemAt{}) {
			return err
		}
		return p.sameAs(item.Same)
	}
	if err := p.outcomeAmong(idList(outcomesOf(item), func(x book.Outcome) string { return x.ID })...); err != nil {
		return err
	}
	if p.draft.Value.IsSaid() {
		return input.At("value", "a value, or one of the outcomes", "%q was chosen, and a value given with it", p.draft.Outcome)
	}
	if o, _ := outcomeOf(item, p.draft.Outcome); o.Reason && strings.TrimSpace(p.draft.Note) == "" {
		return input.At("note", "the reason in words", "%q wants a reason", o.Text)
	}
	return nil
}

// endsWith tells whether an answer is one after which nothing more is asked.
// Few items have such an outcome; of the others the entry is not read.
func endsWith(item book.Item, e Entry) bool {
	if !slices.ContainsFunc(item.Outcomes, func(o book.Outcome) bool { return o.Ends }) {
		return false
	}
	o, _ := outcomeOf(item, e.Said().Outcome)
	return o.Ends
}

// outcomeOf an item by its id.
func outcomeOf(item book.Item, id string) (book.Outcome, bool) {
	list := outcomesOf(item)
	i := slices.IndexFunc(list, func(o book.Outcome) bool { return o.ID == id })
	if i < 0 {
		return book.Outcome{}, false
	}
	return list[i], true
}

// sameAs judges a value by an earlier one: connectors tagged and plugged.
func (p *proposal) sameAs(same book.ItemAt) error {
	before, _ := p.ledger.Plan.Step(same.Step)
	earlier, ok := p.state.of(before).has(ActOutcome, ReadPlace(same.Item))
	if p.state.isSkipped(before) {
		return nil // nothing was counted: it stands as it is said
	}
	if !ok {
		return refuse(GateClosed, firstHeldAgainst, before.Title)
	}
	p.verdict = metrology.In
	if p.draft.Value.SI() != earlier.Said().Value.SI() {
		p.verdict = metrology.Out
	}
	return nil
}

func usualOutcome(items []ItemView, f StepFrame) Draft {
	for _, item := range items {
		at := ReadPlace(item.ID)
		if slices.ContainsFunc(f.Entries, func(e EntryView) bool { return e.Item == at && e.SupersededBy == "" }) {
			continue
		}
		if item.Value != "" {
			u := quantity.Named(quantity.DefaultUnit(item.Value))
			return Draft{Act: ActOutcome, Item: at, Body: Body{Value: quantity.Any{Value: usualValue(item.Value), Unit: u}}}
		}
		return Draft{
			Act: ActOutcome, Item: at,
			Body: Body{Outcome: item.Answers[max(0, slices.IndexFunc(item.Answers, func(a Answer) bool { return a.Good }))].ID},
		}
	}
	return Draft{}
}

// usualValue is what a check of this kind often shows.
func usualValue(d quantity.Dimension) float64 {
	if d == quantity.DimCount {
		return 3
	}
	return 58
}

func outcomeWords(step *Step, at Place, b Body) string {
	i := slices.IndexFunc(step.Items, func(x book.Item) bool { return ReadPlace(x.ID) == at })
	if i < 0 {
		return at.String()
	}
	item := step.Items[i]
	if b.Value.IsSaid() {
		return item.Text + ": " + b.valueWords()
	}
	o, _ := outcomeOf(item, b.Outcome)
	words := item.Text
	switch {
	case item.Text == step.Title && o.Text != "":
		words = o.Text
	case o.Text != "":
		words += ": " + lowered(o.Text)
	}
	if b.Minutes > 0 {
		words += ", " + several(b.Minutes, "minute", "minutes")
	}
	return words
}

// badAnswers are the lines of a step that are not as they should be; their items
// are those of the lines.
func badAnswers(s *State, step *Step) (list []Point) {
	for _, item := range step.Items {
		e, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID))
		if !ok {
			continue
		}
		said := e.Said()
		o, known := outcomeOf(item, said.Outcome)
		if !known || o.Good {
			continue
		}
		list = append(list, Point{
			Step: step.ID, Title: step.Title, Says: item.Text + ": " + lowered(o.Text), By: e.By.Name,
			Left: strings.TrimSpace(said.Note), Item: item.ID,
		})
	}
	return list
}

// outcomeRenew is the answer of a line that asks for a new part.
const outcomeRenew = "renew"

// buysRenewed are the lines of a check that are to be renewed; what a stack asks
// for by the same name is the same part.
func buysRenewed(s *State, step *Step) (list []ToBuy, all bool) {
	for _, item := range step.Items {
		e, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID))
		if !ok || e.Said().Outcome != outcomeRenew {
			continue
		}
		list = append(list, ToBuy{
			Line: step.ID + "." + item.ID, Name: item.Text, Pieces: 1, Asked: true, ByName: true,
			Why: cmp.Or(e.Said().Note, "to be renewed: "+lowered(step.Title)),
		})
	}
	return list, true
}

// sumsItems counts what was proved on the road.
func sumsItems(s *State, step *Step, sum *Summary) {
	if book.StationAt(step.Station) != book.StationAt(book.ProveAt) {
		return
	}
	for _, item := range step.Items {
		if _, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID)); ok {
			sum.tried++
		}
	}
	for _, p := range badAnswers(s, step) {
		sum.bad = append(sum.bad, p.Says)
	}
}
