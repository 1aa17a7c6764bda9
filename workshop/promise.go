package workshop

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/decision"
	"handwerk/core/input"
)

// A day is promised when the order is opened. Which day can be kept is known
// better when the way is chosen and when the parts are ordered: it is worked
// out from the way's hours, from what has to come, and from what else is
// promised in the same hands. A new promise is an entry; the first one stays
// sealed with the order.

// OpenPromise is a rebuild in somebody's hands that is promised for a day.
type OpenPromise struct {
	Rebuild  string  `json:"rebuild"`
	Number   string  `json:"number"`
	Unit     string  `json:"unit"`
	Promised string  `json:"promised"`             // a day
	Hours    float64 `json:"hours_left,omitempty"` // 0 where nobody knows

	left decision.Range `json:"-"` // of work, as its way has it
}

// PromiseView is the day that can be promised, and what it rests on.
type PromiseView struct {
	Promised string        `json:"promised"` // now
	Day      string        `json:"day"`      // that holds in eight of ten cases
	Days     float64       `json:"days"`     // from today
	Way      string        `json:"way"`      // in words
	Hours    float64       `json:"hours"`    // of work before it, in the same hands
	Before   []OpenPromise `json:"before"`
	Unknown  int           `json:"unknown,omitempty"` // of them nobody knows how long they take
	Says     string        `json:"says"`
}

// acceptPromised: another day is promised.
func (p *proposal) acceptPromised() error {
	p.draft.Item = Place{}
	var faults input.Fields
	if p.dayAhead(&faults); p.old == nil && p.draft.Due == p.state.promised {
		faults.Add("due", "another day than the one that is promised", "%s is promised already", p.draft.Due)
	}
	return faults.Err()
}

// lastPromised is the day that was promised last.
func (s *State) lastPromised() string {
	for i := len(s.entries) - 1; i >= 0; i-- {
		if e := s.entries[i]; e.Act == ActPromised && s.by[i] == 0 {
			if due := e.Said().Due; isDay(due) {
				return due
			}
		}
	}
	return s.order.Promised
}

// isDay tells whether something can be promised for it.
func isDay(s string) bool {
	day, err := time.Parse(time.DateOnly, s)
	return err == nil && day.Year() >= 2000 && day.Year() < 2200
}

// hoursAfter is how much of that work comes after a step.
func (s *State) hoursAfter(step *Step) float64 {
	now := s.Standing()
	left := 0
	for _, x := range s.plan.Steps[step.at+1:] {
		if !s.needs(x).IsMet() {
			left++
		}
	}
	if now.Steps == now.Done {
		return 0
	}
	return math.Round(now.HoursLeft*float64(left)/float64(now.Steps-now.Done)*10) / 10
}

// Promise works out the day that somebody can promise for a rebuild, going a
// way; an empty one is the way that was taken.
func (w *Workshop) Promise(ctx context.Context, id, way string, by Person) (PromiseView, error) {
	l, err := w.store.Ledger(ctx, id)
	if err != nil {
		return PromiseView{}, err
	}
	open, err := w.store.OpenPromises(ctx, by.Login, id)
	if err != nil {
		return PromiseView{}, err
	}
	for i, o := range open {
		other, err := w.store.Ledger(ctx, o.Rebuild)
		if err != nil {
			return PromiseView{}, err
		}
		s := other.State()
		open[i].left = s.rangeLeft(s.Standing())
	}
	shop, _, err := w.store.Shop(ctx)
	if err != nil {
		return PromiseView{}, err
	}
	return promise(l, way, open, shop, w.now())
}

// mayTake is how long it may take; where its way has no range that can be, what is
// left of it by the mean.
func (o OpenPromise) mayTake() decision.Range {
	if r := o.left; r.Low >= 0 && r.High > 0 && r.High < mostHours && r.Low <= r.High {
		return r
	}
	return decision.Range{Low: o.Hours, High: o.Hours}
}

// promise takes what is in the same hands and promised no later before it: the
// later the day becomes, the more of it.
func promise(l Ledger, way string, open []OpenPromise, shop Shop, now time.Time) (PromiseView, error) {
	s := l.State()
	if ids := s.wayIDs(); way != "" && !slices.Contains(ids, way) {
		return PromiseView{}, input.At("way", strings.Join(ids, ", "), "%q is no way of this rebuild", way)
	}
	today := dayOf(now, s.zone)
	in, problem := s.decides(l, way, today)
	v := PromiseView{Promised: s.promised, Before: []OpenPromise{}, Says: problem}
	if problem != "" {
		return v, nil
	}
	v.Way = in.Options[0].Says
	calendar := shop.calendar(today)
	in.Calendar = &calendar
	for {
		out, err := decision.Decide(in)
		if err != nil {
			return v, input.Below("way", err)
		}
		v.Days = out.Options[0].DaysP80
		v.Day = shop.openDay(dayAfter(today, int(math.Ceil(v.Days-1e-9))))
		before := slices.DeleteFunc(slices.Clone(open), func(o OpenPromise) bool { return o.Promised > v.Day })
		if len(before) == len(v.Before) {
			v.Says = v.words()
			return v, nil
		}
		v.Before, v.Hours, v.Unknown = before, 0, 0
		in.AheadOf = nil
		for _, o := range before {
			if v.Hours += o.Hours; o.Hours == 0 {
				v.Unknown++
			}
			in.AheadOf = append(in.AheadOf, o.mayTake())
		}
	}
}

// wayIDs are the ways that may be taken, weighed or not.
func (s *State) wayIDs() (ids []string) {
	for _, step := range s.plan.Steps {
		if step.agrees() {
			for _, c := range s.choices(step) {
				ids = append(ids, c.ID)
			}
		}
	}
	return ids
}

// decides is what the ways of a rebuild are weighed by, with one way alone: its
// work as far as it is not done, its waiting as the parts list knows it. The
// problem says why nothing can be worked out.
func (s *State) decides(l Ledger, way, today string) (in decision.In, problem string) {
	for _, step := range s.plan.Steps {
		for _, w := range step.weighs {
			if !w.ofWays() {
				continue
			}
			p := &proposal{ledger: l, state: s, step: step}
			filled, err := w.bindings.Fill(p.unread())
			if err != nil {
				return in, "No day can be worked out yet. " + raised(s.whatItLacks(step, w)) + "."
			}
			raw, err := json.Marshal(filled)
			if err != nil || json.Unmarshal(raw, &in) != nil {
				return in, "The ways cannot be read."
			}
		}
	}
	if taken, ok := s.wayTaken(); way == "" && ok {
		way = taken.ID
	}
	in.Options = slices.DeleteFunc(in.Options, func(o decision.Option) bool { return o.ID != way })
	if len(in.Options) != 1 {
		return in, "No way is chosen yet that the sheet has figures of."
	}
	o, left := &in.Options[0], s.shareLeft(s.Standing())
	o.Hours = o.Hours.Times(left)
	if day, known := s.partsDay(today); known {
		o.Waiting = decision.Range{Low: float64(day), High: float64(day)}
	}
	in.Deadline = 0
	return in, ""
}

// partsDay counts the days until the last of a rebuild's parts is here, as the
// parts list knows it.
func (s *State) partsDay(today string) (days int, known bool) {
	for _, step := range s.plan.Steps {
		if !step.kind.lists || s.isBlocked(step) || len(s.unseen(step)) > 0 {
			continue
		}
		last := s.covers(s.partsOf(step)).last(today, s.promised, building{})
		if last.Unknown > 0 {
			return 0, false
		}
		if last.Day != "" {
			days = max(days, daysBetween(today, last.Day))
		}
		known = true
	}
	return days, known
}

// calendar is when the shop works, from a day on.
func (s Shop) calendar(from string) decision.Calendar {
	return decision.Calendar{From: from, Open: s.OpenDays, Off: s.DaysOff}
}

// openDay is the day itself, or the next on which somebody is there.
func (s Shop) openDay(day string) string {
	open := s.OpenDays
	if len(open) == 0 {
		open = weekdays[:5]
	}
	for range 400 {
		t, _ := time.Parse(time.DateOnly, day) // made by dayAfter
		if slices.Contains(open, strings.ToLower(t.Format("Mon"))) && !slices.Contains(s.DaysOff, day) {
			break
		}
		day = dayAfter(day, 1)
	}
	return day
}

func (v PromiseView) words() string {
	words := fmt.Sprintf("%s: %s keeps in eight of ten cases", v.Way, dayWords(v.Day))
	if n := len(v.Before); n > 0 {
		words += fmt.Sprintf(", with %s before it, %s of work", several(n, "promise", "promises"), input.Plain(v.Hours)+" h")
	}
	if v.Unknown > 0 {
		words += fmt.Sprintf("; of %d of them nobody knows how long they take", v.Unknown)
	}
	return words + "."
}
