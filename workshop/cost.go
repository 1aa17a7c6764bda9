package workshop

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/input"
)

// What a rebuild has cost so far against what was estimated: labour from the
// time people were at its steps, parts and fluids from the list, what was sent
// out. Leads see it; nothing of it stands on the record but the times.

// Cost is the sheet of one rebuild, in the shop's currency.
type Cost struct {
	Rebuild  Rebuild     `json:"rebuild"`
	Way      string      `json:"way"` // that was decided, in words
	Rate     float64     `json:"rate"`
	Lines    []CostLine  `json:"lines"`
	Agreed   *AgreedView `json:"agreed,omitempty"`
	Over     float64     `json:"over"`                            // what is so far over what the customer said yes to
	Verdict  string      `json:"verdict" enum:"in,undecided,out"` // against the yes, and the estimate
	Says     string      `json:"says"`                            // the same in one sentence
	Unpriced int         `json:"unpriced"`                        // lines of the parts list that nobody knows a price of
	Steps    []StepTime  `json:"steps"`
}

// CostLine is one kind of cost: estimated, and so far.
type CostLine struct {
	ID        string   `json:"id" enum:"work,parts,fluids,outside,sum"`
	Title     string   `json:"title"`
	Estimated *float64 `json:"estimated,omitempty"`
	SoFar     float64  `json:"so_far"`
	Coming    float64  `json:"coming"` // of it: ordered and not here yet
}

// StepTime is how long people were at a step.
type StepTime struct {
	Step    string       `json:"step"`
	Title   string       `json:"title"`
	Planned int          `json:"planned,omitempty"` // minutes it takes in this shop
	Minutes float64      `json:"minutes"`
	People  []PersonTime `json:"people"`
}

// PersonTime is one person's share of it.
type PersonTime struct {
	Login   string  `json:"login"`
	Name    string  `json:"name"`
	Minutes float64 `json:"minutes"`
	// Entry corrects it by hand; empty where the screen alone counted.
	Entry string `json:"entry,omitempty"`
}

// acceptTime: somebody says how long he was at a step; a lead may say it of others.
func (p *proposal) acceptTime() error {
	if p.draft.Item == (Place{}) {
		p.draft.Item = ReadPlace(p.by.Login)
	}
	who := p.draft.Item.String()
	known := slices.ContainsFunc(p.ledger.Entries, func(e Entry) bool { return e.By.Login == who })
	switch {
	case who != p.by.Login && p.by.Role != Lead:
		return refuse(Forbidden, othersTime)
	case who != p.by.Login && !known:
		return input.At("item", "the login of somebody who worked here", "%q did not", who)
	case p.draft.Minutes < 0 || p.draft.Minutes > mostMinutes:
		return input.At("minutes", "0 to 1440", "%d minutes cannot be", p.draft.Minutes)
	}
	return nil
}

// times are how long people were at each step: the time a screen was open
// there before each entry, counted once where it overlaps, or what was said by
// hand.
func (s *State) times() []StepTime {
	type share struct{ step, login string }
	spent, names, said := map[share]time.Duration{}, map[string]string{}, map[share]*Entry{}
	until := map[string]time.Time{} // of each person: the end of what is counted
	for i := range s.entries {
		e := &s.entries[i]
		b := e.Said()
		names[e.By.Login] = e.By.Name
		if e.Act == ActTime && s.by[i] == 0 {
			said[share{e.Step, e.Item.String()}] = e
		}
		from := e.At.Add(-time.Duration(b.Spent) * time.Second)
		if last := until[e.By.Login]; from.Before(last) {
			from = last
		}
		if b.Spent > 0 && from.Before(e.At) {
			spent[share{e.Step, e.By.Login}] += e.At.Sub(from)
		}
		if until[e.By.Login].Before(e.At) {
			until[e.By.Login] = e.At
		}
	}
	list := []StepTime{}
	for _, step := range s.plan.Steps {
		t := StepTime{Step: step.ID, Title: step.Title, Planned: step.Minutes, People: []PersonTime{}}
		for login, name := range names {
			at := share{step.ID, login}
			p := PersonTime{Login: login, Name: name, Minutes: math.Round(spent[at].Minutes()*10) / 10}
			if e := said[at]; e != nil {
				p.Minutes, p.Entry = float64(e.Said().Minutes), e.ID
			}
			if p.Minutes > 0 || p.Entry != "" {
				t.People, t.Minutes = append(t.People, p), t.Minutes+p.Minutes
			}
		}
		slices.SortFunc(t.People, func(a, b PersonTime) int { return strings.Compare(a.Name, b.Name) })
		if len(t.People) > 0 || t.Planned > 0 {
			list = append(list, t)
		}
	}
	return list
}

// Costs makes the sheet of a rebuild.
func Costs(l Ledger) Cost {
	s := l.State()
	c := Cost{Rebuild: l.Rebuild, Agreed: s.lastAgreed(), Steps: s.times()}
	_ = json.Unmarshal(s.on.figures["figures.hourly-rate"], &c.Rate) // none is nought
	minutes := 0.0
	for _, t := range c.Steps {
		minutes += t.Minutes
	}
	work := CostLine{ID: "work", Title: "Work", SoFar: cents(minutes / 60 * c.Rate)}
	parts, fluids, outside := CostLine{ID: "parts", Title: "Parts"}, CostLine{ID: "fluids", Title: "Fluids"}, CostLine{
		ID: "outside", Title: "Sent out",
	}
	for _, step := range l.Plan.Steps {
		if step.kind.lists {
			c.Unpriced += s.addBought(l, step, &parts, &fluids, &outside)
		}
	}
	sum := CostLine{ID: "sum", Title: "All"}
	if way, ok := s.wayTaken(); ok {
		c.Way = way.Says
		total := 0.0
		for _, x := range []struct {
			line *CostLine
			sum  float64
		}{{&work, usually(way.Hours) * c.Rate}, {&parts, usually(way.Parts)}, {&fluids, usually(way.Fluids)}, {&outside, usually(way.Outside)}} {
			if x.sum > 0 || x.line == &work || x.line == &parts {
				estimated := cents(x.sum)
				x.line.Estimated = &estimated
			}
			total = cents(total + x.sum)
		}
		sum.Estimated = &total
	}
	for _, x := range []CostLine{work, parts, fluids, outside} {
		sum.SoFar, sum.Coming = cents(sum.SoFar+x.SoFar), cents(sum.Coming+x.Coming)
	}
	if c.Agreed != nil {
		c.Over = cents(max(0, sum.SoFar-c.Agreed.Sum))
	}
	c.Lines = []CostLine{work, parts, fluids, outside, sum}
	c.Verdict, c.Says = c.judged(sum)
	return c
}

// judged tells how the costs stand: what they come to is what was estimated, or
// what they are already, and the customer's yes comes before the estimate.
func (c Cost) judged(sum CostLine) (verdict, says string) {
	soFar := moneyWords(sum.SoFar)
	switch {
	case c.Over > 0:
		return "out", moneyWords(c.Over) + " over what the customer said yes to: ask before more is done."
	case sum.Estimated == nil && c.Agreed != nil:
		return "undecided", fmt.Sprintf("%s of the %s the customer said yes to; no way was decided that the sheet has figures of.", soFar, moneyWords(c.Agreed.Sum))
	case sum.Estimated == nil:
		return "undecided", soFar + " so far; no way was decided that the sheet has figures of."
	}
	estimated := *sum.Estimated
	switch left := cents(estimated - sum.SoFar); {
	case c.Agreed != nil && max(estimated, sum.SoFar) > c.Agreed.Sum:
		over := cents(max(estimated, sum.SoFar) - c.Agreed.Sum)
		return "undecided", fmt.Sprintf(
			"%s so far. The estimate is %s over the %s the customer said yes to: ask before it is spent.", soFar,
			moneyWords(over), moneyWords(c.Agreed.Sum),
		)
	case left < 0:
		return "undecided", fmt.Sprintf("%s: %s more than estimated.", soFar, moneyWords(-left))
	default:
		return "in", fmt.Sprintf("%s of %s; %s are left.", soFar, moneyWords(estimated), moneyWords(left))
	}
}

// moneyWords are whole, or to the cent.
func moneyWords(n float64) string {
	if n == math.Trunc(n) {
		return fmt.Sprintf("%.0f", n)
	}
	return fmt.Sprintf("%.2f", n)
}

// soFar is the sum of it.
func (c Cost) soFar() float64 { return c.Lines[len(c.Lines)-1].SoFar }

// cents are nought where a record from elsewhere says what no money can be.
func cents(n float64) float64 {
	if math.IsInf(n*100, 0) || math.IsNaN(n) {
		return 0
	}
	return math.Round(n*100) / 100
}

// addBought adds what was bought at a step, and counts what has no price.
func (s *State) addBought(l Ledger, step *Step, parts, fluids, outside *CostLine) (unpriced int) {
	list := s.partsOf(step)
	p := &proposal{ledger: l, state: s, step: step}
	if views, err := p.weighed(); err == nil {
		list.priceFluid(views)
	}
	for _, x := range s.covers(list).stands() {
		if x.isOpen() {
			continue // nothing is owed yet
		}
		if x.Price == nil {
			unpriced++
			continue
		}
		into := parts
		switch {
		case strings.HasPrefix(x.Line, fluidPrefix):
			into = fluids
		case x.Kind == kindSentOut:
			into = outside
		}
		into.SoFar = cents(into.SoFar + *x.Price)
		if x.isAwaited() {
			into.Coming = cents(into.Coming + *x.Price)
		}
	}
	return unpriced
}
