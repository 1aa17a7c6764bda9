// Package items holds the steps of lines to look at: checks and tests.
package items

import (
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// Check: lines to look at, each answered once.
var Check = record.Kind{
	Name: book.Check,
	Nature: book.Nature{
		Check:   checkItems,
		Wants:   measure.WeighsWant,
		Misfits: measure.WeighsMisfit,
		Sample:  itemSample,
	},
	Takes: []*record.Act{ofStep.Act()},
	Needs: ofStep.Needs,
	Open:  OpenLines,
	View: func(v record.Viewer, f record.StepFrame) (_ record.StepView, err error) {
		f.Weighed, err = measure.WeighFor(v)
		return &CheckStep{f, book.Check, ofStep.Views(v)}, err
	},
	Bad:   ofStep.Bad,
	Buys:  buysRenewed,
	Sums:  sumsItems,
	Gives: givesItem,
	Usual: UsualLine,
	Empty: func() record.StepView { return &CheckStep{} },
}

// Of gives the lines of a step that are answered one by one.
type Of func(*record.Step) []book.Item

// ofStep are those that the book wrote down.
var ofStep Of = func(step *record.Step) []book.Item { return step.Items }

// Act is the act of every line.
func (of Of) Act() *record.Act {
	return &record.Act{Act: acts.Outcome{}, Accept: of.accept, Says: of.words}
}

// CheckStep is a check as the bench shows it.
type CheckStep struct {
	record.StepFrame
	Kind book.Kind `json:"kind" const:"check"`
	AnsweredLines
}

// AnsweredLines are what is answered one by one.
type AnsweredLines struct {
	Items []ItemView `json:"items"`
}

// Lines are all of them.
func (l AnsweredLines) Lines() []ItemView { return l.Items }

// CautionsAt are those of the line that a draft answers.
func (l AnsweredLines) CautionsAt(d record.Draft) []record.CautionView {
	i := slices.IndexFunc(l.Items, func(x ItemView) bool {
		return record.ReadPlace(x.ID) == d.Item && d.Says.Name() == acts.Outcome{}.Name()
	})
	if i < 0 {
		return nil
	}
	cautions := l.Items[i].Cautions
	for _, a := range l.Items[i].Answers {
		if a.ID == acts.OutcomeOf(d.Says) {
			cautions = slices.Concat(cautions, a.Cautions)
		}
	}
	return cautions
}

// ItemView is one line with the answers it takes; none where a value is asked.
type ItemView struct {
	ID       string             `json:"id"`
	Text     string             `json:"text"`
	Answers  []record.Answer    `json:"answers"`
	Value    quantity.Dimension `json:"value,omitempty"`
	Units    []string           `json:"units,omitempty"` // to type it in
	Optional bool               `json:"optional,omitempty"`
	Picture  bool               `json:"picture,omitempty"` // one is worth taking
	// Cautions are those of this line; grave ones are read before it is answered.
	Cautions []record.CautionView `json:"cautions,omitempty"`
	Needs    []string             `json:"needs,omitempty"` // what the vehicle must be able to
	// Unsettled: its answer is not good, and nobody said yet what comes of it.
	Unsettled bool `json:"unsettled,omitempty"`
	// Known is what an earlier step found out by the same test, with its title.
	Known string `json:"known,omitempty"`
}

// Views are the lines as the bench shows them.
func (of Of) Views(at record.Viewer) AnsweredLines {
	views := make([]ItemView, 0, len(of(at.Step)))
	bad := map[string]bool{}
	if at.Step.IsJudged() && !record.IsSigned(at.State) {
		for _, p := range of.Bad(at.State, at.Step) {
			bad[p.Item] = p.Left == ""
		}
	}
	for _, i := range of(at.Step) {
		v := ItemView{
			ID: i.ID, Text: i.Text, Answers: []record.Answer{}, Value: i.Value, Optional: i.Optional,
			Picture:  i.Picture,
			Cautions: record.CautionViews(at.Ledger, at.State, at.Step, i.Cautions), Needs: i.Needs,
			Unsettled: bad[i.ID], Known: findKnown(at, i),
		}
		if i.Value != "" {
			v.Units = quantity.ChoicesIn(at.State.Units, quantity.DefaultUnit(i.Value))
		}
		for _, o := range record.OutcomesOf(i) {
			if record.Against(at.State, o.Wants) != "" && len(o.Wants) > 0 && !isGiven(at, i.ID) {
				continue // it cannot be so
			}
			a := record.Answer{ID: o.ID, Text: o.Text, Good: o.Good, Reason: o.Reason}
			if len(o.Cautions) > 0 {
				a.Cautions = record.CautionViews(at.Ledger, at.State, at.Step, o.Cautions)
			}
			v.Answers = append(v.Answers, a)
		}
		views = append(views, v)
	}
	return AnsweredLines{views}
}

// findKnown is what another step found out by the test of a line that is not answered
// itself: nobody is asked twice.
func findKnown(at record.Viewer, line book.Item) string {
	if line.Test == "" || at.Step.Beside != "" || isGiven(at, line.ID) {
		return ""
	}
	for _, step := range at.Ledger.Plan.Steps {
		for _, item := range step.Items {
			if item.Test != line.Test || step.ID == at.Step.ID || step.Beside != "" {
				continue
			}
			said, _ := record.FindAct[acts.Outcome](at.State, step, record.ReadPlace(item.ID))
			if said == nil || said.Outcome == book.CouldNot || said.Outcome == book.NothingBesides {
				continue
			}
			o, _ := record.OutcomeOf(item, said.Outcome)
			return say.Of(step.Title, say.Lower(o.Text))
		}
	}
	return ""
}

// isGiven tells that a line is answered.
func isGiven(at record.Viewer, item string) bool {
	_, is := at.State.At(at.Step).Has(acts.Outcome{}, record.ReadPlace(item))
	return is
}

// checkItems looks at the lines of a check.
func checkItems(c *book.Checker, at string, s book.Step) {
	if s.FromBook != "" {
		c.Add(input.Join(at, "from_book"), "complaint or tests, at a test", "%q gives no lines here", s.FromBook)
	}
	itemsThere(c, input.Join(at, "items"), s)
	measure.CheckWeighs(c, at, s)
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
		c.Add(input.Join(path, "outcomes"), "outcomes, answers, test, or value: temperature",
			"a test needs outcomes to choose from")
	}
	if item.Value != "" && quantity.DefaultUnit(item.Value) == "" {
		c.Add(input.Join(path, "value"), "length, torque, volume, temperature, time, count",
			"%q is not measured here", item.Value)
	}
	if item.Same != (book.ItemAt{}) {
		earlier, _ := c.Earlier(item.Same.Step)
		same := func(x book.Item) bool { return x.ID == item.Same.Item && x.Value == item.Value }
		if item.Value == "" || !slices.ContainsFunc(earlier.Items, same) {
			c.Add(
				input.Join(path, "same"),
				"step.item of an earlier value of the same kind",
				"%q is not an earlier value",
				item.Same,
			)
		}
	}
}

// itemSample: later steps take the values that were typed.
func itemSample(s book.Step, what []string) (any, bool) {
	i := slices.IndexFunc(s.Items, func(i book.Item) bool { return i.ID == what[0] && i.Value != "" })
	if i < 0 {
		return nil, false
	}
	return measure.One(quantity.DefaultUnit(s.Items[i].Value)), true
}

func givesItem(s *record.State, step *record.Step, what []string) (any, bool, error) {
	return ReadAt(s, step, record.ReadPlace(what[0]), func(said *acts.Outcome) any { return said.Value })
}

// ReadAt is what the entry at a place said; ErrNotYet while there is none.
func ReadAt[T any, P interface {
	*T
	acts.Act
}](s *record.State, step *record.Step, at record.Place, of func(P) any) (any, bool, error) {
	said, _ := record.FindAct[T, P](s, step, at)
	if said == nil {
		return nil, false, measure.ErrNotYet
	}
	return of(said), true, nil
}

// Needs tells which lines are not answered.
func (of Of) Needs(s *record.State, step *record.Step) record.Need {
	left, done, ended, lines := 0, 0, false, of(step)
	for _, item := range lines {
		e, ok := s.At(step).Has(acts.Outcome{}, record.ReadPlace(item.ID))
		switch {
		case ok && e.Verdict == metrology.Out:
			return record.Need{What: record.Differs, Place: record.ReadPlace(item.ID)}
		case ok:
			done++
			ended = ended || endsWith(item, e)
		case !item.Optional:
			left++
		}
	}
	if bad, is := record.FindOpen(s, step); is {
		return bad
	}
	if ended {
		return record.Need{}
	}
	if left == 0 && done == 0 && len(lines) > 0 {
		return record.Need{What: record.OneLine}
	}
	return record.CountNeed(record.Lines, left)
}

// OpenLines: any line may be answered.
func OpenLines(*record.State, *record.Step, time.Time) []record.OpenAct {
	return []record.OpenAct{record.MayDo(acts.Outcome{})}
}

func (of Of) accept(p *record.Attempt) error {
	said, lines := record.Saying[acts.Outcome](p), of(p.Step)
	if said.Minutes < 0 || said.Minutes > say.MostMinutes {
		return input.At("minutes", "1 to 1440", "%d minutes is not possible", said.Minutes)
	}
	i := slices.IndexFunc(lines, func(x book.Item) bool { return record.ReadPlace(x.ID) == p.Draft.Item })
	if i < 0 {
		return input.At("item", say.ListOf(lines, func(x book.Item) string { return x.ID }),
			"%q is not a line of this step", p.Draft.Item.String())
	}
	item := lines[i]
	if item.Value != "" && said.Outcome == "" {
		if err := p.WantValue(item.Value); err != nil || item.Same == (book.ItemAt{}) {
			return err
		}
		return sameAs(p, said, item.Same)
	}
	if err := p.WantOutcome(say.IDs(record.OutcomesOf(item),
		func(x book.Outcome) string { return x.ID })...); err != nil {
		return err
	}
	if said.Value.IsSaid() {
		return input.At("value", "a value, or one of the outcomes", "give a value or choose %q, not both",
			said.Outcome)
	}
	o, _ := record.OutcomeOf(item, said.Outcome)
	if now := record.Against(p.State, o.Wants); now != "" && p.Old == nil {
		return say.Refuse(say.Conflict, say.StandsNow, o.Text, now)
	}
	if o.Reason && strings.TrimSpace(said.Note) == "" {
		return input.At("note", "the reason in words", "%q needs a reason", o.Text)
	}
	return nil
}

// endsWith tells whether an answer is one after which nothing more is asked.
// Few items have such an outcome; of the others the entry is not read.
func endsWith(item book.Item, e record.Entry) bool {
	if !slices.ContainsFunc(item.Outcomes, func(o book.Outcome) bool { return o.Ends }) {
		return false
	}
	o, _ := record.OutcomeOf(item, acts.OutcomeOf(e.ReadAct()))
	return o.Ends
}

// sameAs judges a value by an earlier one: connectors tagged and plugged.
func sameAs(p *record.Attempt, said *acts.Outcome, same book.ItemAt) error {
	before, _ := p.Ledger.Plan.Step(same.Step)
	earlier, _ := record.FindAct[acts.Outcome](p.State, before, record.ReadPlace(same.Item))
	if p.State.IsSkipped(before) {
		return nil // nothing was counted: it stands as it is said
	}
	if earlier == nil {
		return say.Refuse(say.GateClosed, say.FirstHeldAgainst, before.Title)
	}
	p.Verdict = metrology.In
	if said.Value.SI() != earlier.Value.SI() {
		p.Verdict = metrology.Out
	}
	return nil
}

// UsualLine answers the next line as it should be.
func UsualLine(v record.StepView) record.Draft {
	for _, item := range v.(interface{ Lines() []ItemView }).Lines() {
		at := record.ReadPlace(item.ID)
		if slices.ContainsFunc(v.Frame().Entries, func(e record.EntryView) bool {
			return e.Item == at &&
				e.SupersededBy == ""
		}) {
			continue
		}
		if item.Value != "" {
			u := quantity.Named(quantity.DefaultUnit(item.Value))
			return record.Draft{
				Item: at,
				Says: &acts.Outcome{
					Measured: acts.Measured{Value: quantity.Any{Value: usualValue(item.Value), Unit: u}},
				},
			}
		}
		return record.Draft{Item: at, Says: &acts.Outcome{Outcome: item.Answers[max(0,
			slices.IndexFunc(item.Answers, func(a record.Answer) bool { return a.Good }))].ID}}
	}
	return record.Draft{}
}

// usualValue is what a check of this kind often shows.
func usualValue(d quantity.Dimension) float64 {
	switch d {
	case quantity.DimCount:
		return 3
	case quantity.DimVolume:
		return 2.4
	}
	return 58
}
