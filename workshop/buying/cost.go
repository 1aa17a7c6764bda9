package buying

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

// What a rebuild has cost so far against what was estimated: labour from the
// time people were at its steps, parts and fluids from the list, what was sent
// out. Leads see it; nothing of it stands on the record but the times.

// Cost is the sheet of one rebuild, in the shop's currency.
type Cost struct {
	Rebuild  record.Rebuild     `json:"rebuild"`
	Way      string             `json:"way"` // that was decided, in words
	Rate     quantity.Money     `json:"rate"`
	Lines    []CostLine         `json:"lines"`
	Agreed   *decide.AgreedView `json:"agreed,omitempty"`
	Over     quantity.Money     `json:"over"`                            // what is so far over what the customer said yes to
	Verdict  string             `json:"verdict" enum:"in,undecided,out"` // against the approval, and the estimate
	Says     string             `json:"says"`                            // the same in one sentence
	Unpriced int                `json:"unpriced"`                        // lines of the parts list that nobody knows a price of
	Steps    []StepTime         `json:"steps"`
}

// CostLine is one kind of cost: estimated, and so far.
type CostLine struct {
	ID        string          `json:"id" enum:"work,parts,fluids,outside,sum"`
	Title     string          `json:"title"`
	Estimated *quantity.Money `json:"estimated,omitempty"`
	SoFar     quantity.Money  `json:"so_far"`
	Coming    quantity.Money  `json:"coming"` // of it: ordered and not here yet
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

// share is one person's time at one step.
type share struct{ step, login string }

// clock is how long screens were open, by person and step, and what was said by hand.
type clock struct {
	spent map[share]time.Duration
	said  map[share]*record.Entry
	names map[string]string    // of the people, by their logins
	until map[string]time.Time // of each person: the end of what is counted
}

// timesOf are how long people were at each step: the time a screen was open
// there before each entry, counted once where it overlaps, or what was said by
// hand.
func timesOf(s *record.State) []StepTime {
	c := clock{map[share]time.Duration{}, map[share]*record.Entry{}, map[string]string{}, map[string]time.Time{}}
	for i := range s.Entries {
		e := &s.Entries[i]
		c.count(e)
		if e.Is(acts.Time{}) && s.Superseded[i] == 0 {
			c.said[share{e.Step, e.Item.String()}] = e
		}
	}
	list := []StepTime{}
	for _, step := range s.Plan.Steps {
		t := StepTime{Step: step.ID, Title: step.Title, Planned: step.Minutes, People: c.at(step.ID)}
		for _, p := range t.People {
			t.Minutes += p.Minutes
		}
		if len(t.People) > 0 || t.Planned > 0 {
			list = append(list, t)
		}
	}
	return list
}

// count adds the time before an entry that nobody counted yet.
func (c *clock) count(e *record.Entry) {
	seconds, who := e.ReadAct().Seconds(), e.By.Login
	c.names[who] = e.By.Name
	from := e.At.Add(-time.Duration(seconds) * time.Second)
	if last := c.until[who]; from.Before(last) {
		from = last
	}
	if seconds > 0 && from.Before(e.At) {
		c.spent[share{e.Step, who}] += e.At.Sub(from)
	}
	if c.until[who].Before(e.At) {
		c.until[who] = e.At
	}
}

// at are the people who were at a step, by their names.
func (c *clock) at(step string) []PersonTime {
	people := []PersonTime{}
	for login, name := range c.names {
		at := share{step, login}
		p := PersonTime{Login: login, Name: name, Minutes: math.Round(c.spent[at].Minutes()*10) / 10}
		if e := c.said[at]; e != nil {
			p.Minutes, p.Entry = float64(record.As[acts.Time](e).Minutes), e.ID
		}
		if p.Minutes > 0 || p.Entry != "" {
			people = append(people, p)
		}
	}
	slices.SortFunc(people, func(a, b PersonTime) int { return strings.Compare(a.Name, b.Name) })
	return people
}

// Costs makes the sheet of a rebuild.
func Costs(l record.Ledger) Cost {
	s := l.State()
	c := Cost{Rebuild: l.Rebuild, Agreed: decide.LastAgreed(s), Steps: timesOf(s)}
	var rate float64
	_ = json.Unmarshal(s.On.Figures["figures.hourly-rate"], &rate) // none is nought
	c.Rate = quantity.MoneyOf(rate)
	minutes := 0.0
	for _, t := range c.Steps {
		minutes += t.Minutes
	}
	work := CostLine{ID: "work", Title: "Work", SoFar: c.Rate.Times(minutes / 60)}
	parts, fluids, outside := CostLine{ID: "parts", Title: "Parts"}, CostLine{ID: "fluids", Title: "Fluids"}, CostLine{
		ID: "outside", Title: "Sent out",
	}
	for _, step := range l.Plan.Steps {
		if step.Rules.Lists {
			c.Unpriced += addBought(s, l, step, &parts, &fluids, &outside)
		}
	}
	sum := CostLine{ID: "sum", Title: "All"}
	if way, ok := decide.WayTaken(s); ok {
		c.Way = way.Says
		var total quantity.Money
		for _, x := range []struct {
			line *CostLine
			sum  quantity.Money
		}{
			{&work, c.Rate.Times(way.Hours.Usual())}, {&parts, quantity.MoneyOf(way.Parts.Usual())},
			{&fluids, quantity.MoneyOf(way.Fluids.Usual())}, {&outside, quantity.MoneyOf(way.Outside.Usual())},
		} {
			if x.sum > 0 || x.line == &work || x.line == &parts {
				x.line.Estimated = &x.sum
			}
			total += x.sum
		}
		sum.Estimated = &total
	}
	for _, x := range []CostLine{work, parts, fluids, outside} {
		sum.SoFar, sum.Coming = sum.SoFar+x.SoFar, sum.Coming+x.Coming
	}
	if c.Agreed != nil {
		c.Over = max(0, sum.SoFar-c.Agreed.Sum)
	}
	c.Lines = []CostLine{work, parts, fluids, outside, sum}
	c.Verdict, c.Says = c.Judge(sum)
	return c
}

// Judge tells how the costs stand: what they come to is what was estimated, or
// what they are already, and the customer's approval comes before the estimate.
func (c Cost) Judge(sum CostLine) (verdict, says string) {
	soFar := sum.SoFar.String()
	switch {
	case c.Over > 0:
		return "out", c.Over.String() + " over what the customer approved. Ask before you do more."
	case sum.Estimated == nil && c.Agreed != nil:
		return "undecided", fmt.Sprintf(
			"%s of the %s the customer approved. No estimate: the chosen option has no figures.", soFar,
			c.Agreed.Sum.String(),
		)
	case sum.Estimated == nil:
		return "undecided", soFar + " so far. No estimate: the chosen option has no figures."
	}
	estimated := *sum.Estimated
	switch left := estimated - sum.SoFar; {
	case c.Agreed != nil && max(estimated, sum.SoFar) > c.Agreed.Sum:
		over := max(estimated, sum.SoFar) - c.Agreed.Sum
		return "undecided", fmt.Sprintf(
			"%s so far. The estimate is %s over the %s the customer approved. Ask before it is spent.", soFar,
			over.String(), c.Agreed.Sum.String(),
		)
	case left < 0:
		return "undecided", fmt.Sprintf("%s: %s over the estimate.", soFar, (-left).String())
	default:
		return "in", fmt.Sprintf("%s of %s; %s left.", soFar, estimated.String(), left.String())
	}
}

// SoFar is the sum of it.
func (c Cost) SoFar() quantity.Money { return c.Lines[len(c.Lines)-1].SoFar }

// addBought adds what was bought at a step, and counts what has no price.
func addBought(s *record.State, l record.Ledger, step *record.Step, parts, fluids, outside *CostLine) (unpriced int) {
	list := PartsOf(s, step)
	p := &record.Attempt{Ledger: l, State: s, Step: step}
	if views, err := measure.Weigh(p); err == nil {
		list.PriceFluid(views)
	}
	for _, x := range PurchaseOf(s, list).Stands() {
		if x.IsOpen() {
			continue // nothing is owed yet
		}
		if x.Price == nil {
			unpriced++
			continue
		}
		into := parts
		switch {
		case strings.HasPrefix(x.Line, record.FluidPrefix):
			into = fluids
		case x.Kind == KindSentOut:
			into = outside
		}
		into.SoFar += *x.Price
		if x.IsAwaited() {
			into.Coming += *x.Price
		}
	}
	return unpriced
}
