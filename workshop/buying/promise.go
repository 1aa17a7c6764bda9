package buying

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"handwerk/core/decision"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
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

	Left decision.Range `json:"-"` // of work, as its way has it
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

// hoursAfter is how much of that work comes after a step.
func hoursAfter(s *record.State, step *record.Step) float64 {
	now := s.Standing()
	left := 0
	for _, x := range s.Plan.Steps[step.At+1:] {
		if !record.Needs(s, x).IsMet() {
			left++
		}
	}
	if now.Steps == now.Done {
		return 0
	}
	return math.Round(now.HoursLeft*float64(left)/float64(now.Steps-now.Done)*10) / 10
}

// mayTake is how long it may take; where its way has no range that can be, what is
// left of it by the mean.
func (o OpenPromise) mayTake() decision.Range {
	if r := o.Left; r.Low >= 0 && r.High > 0 && r.High < record.MostHours && r.Low <= r.High {
		return r
	}
	return decision.Range{Low: quantity.Number(o.Hours), High: quantity.Number(o.Hours)}
}

// Promise takes what is in the same hands and promised no later before it: the
// later the day becomes, the more of it.
func Promise(l record.Ledger, way string, open []OpenPromise, shop shop.Shop, now time.Time) (PromiseView, error) {
	s := l.State()
	if ids := wayIDs(s); way != "" && !slices.Contains(ids, way) {
		return PromiseView{}, input.At("way", strings.Join(ids, ", "), "%q is not an option for this rebuild", way)
	}
	today := say.DayOf(now, s.Zone)
	in, problem := decides(s, l, way, today)
	v := PromiseView{Promised: s.Promised, Before: []OpenPromise{}, Says: problem}
	if problem != "" {
		return v, nil
	}
	v.Way = in.Options[0].Says
	calendar := shop.Calendar(today)
	in.Calendar = &calendar
	for {
		out, err := decision.Decide(in)
		if err != nil {
			return v, input.Below("way", err)
		}
		v.Days = out.Options[0].DaysP80
		v.Day = shop.OpenDay(say.DayAfter(today, int(math.Ceil(v.Days-1e-9))))
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
func wayIDs(s *record.State) (ids []string) {
	for _, step := range s.Plan.Steps {
		if decide.Agrees(step) {
			for _, c := range decide.Choices(s, step) {
				ids = append(ids, c.ID)
			}
		}
	}
	return ids
}

// decides is what the ways of a rebuild are weighed by, with one way alone: its
// work as far as it is not done, its waiting as the parts list knows it. The
// problem says why nothing can be worked out.
func decides(s *record.State, l record.Ledger, way, today string) (in decision.In, problem string) {
	for _, step := range s.Plan.Steps {
		for _, w := range step.Weighings {
			if !w.OfWays() {
				continue
			}
			p := &record.Attempt{Ledger: l, State: s, Step: step}
			filled, err := w.Bindings.Fill(measure.Unread(p))
			if err != nil {
				return in, "No day can be worked out yet. " + say.Raise(measure.WhatItLacks(s, step, w)) + "."
			}
			raw, err := json.Marshal(filled)
			if err != nil || json.Unmarshal(raw, &in) != nil {
				return in, "The options on the spec sheet cannot be read."
			}
		}
	}
	if taken, ok := decide.WayTaken(s); way == "" && ok {
		way = taken.ID
	}
	in.Options = slices.DeleteFunc(in.Options, func(o decision.Option) bool { return o.ID != way })
	if len(in.Options) != 1 {
		return in, "Choose an option first; the chosen one has no figures."
	}
	o, left := &in.Options[0], record.ShareLeft(s, s.Standing())
	o.Hours = o.Hours.Times(left)
	if day, known := partsDay(s, today); known {
		o.Waiting = decision.Range{Low: quantity.Number(day), High: quantity.Number(day)}
	}
	in.Deadline = 0
	return in, ""
}

// partsDay counts the days until the last of a rebuild's parts is here, as the
// parts list knows it.
func partsDay(s *record.State, today string) (days int, known bool) {
	for _, step := range s.Plan.Steps {
		if !step.Rules.Lists || s.IsBlocked(step) || len(Unseen(s, step)) > 0 {
			continue
		}
		last := PurchaseOf(s, PartsOf(s, step)).Last(today, s.Promised, Building{})
		if last.Unknown > 0 {
			return 0, false
		}
		if last.Day != "" {
			days = max(days, say.DaysBetween(today, last.Day))
		}
		known = true
	}
	return days, known
}

func (v PromiseView) words() string {
	words := fmt.Sprintf("%s: promise %s, kept in 8 of 10 cases", v.Way, say.DayWords(v.Day))
	if n := len(v.Before); n > 0 {
		words += fmt.Sprintf(", after %s with %s of work", say.Several(n, "promise", "promises"),
			input.Plain(v.Hours)+" h")
	}
	if v.Unknown > 0 {
		words += fmt.Sprintf("; %d without an estimate", v.Unknown)
	}
	return words + "."
}
