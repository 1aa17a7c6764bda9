package record

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// How things stand at the vehicle, by the record: what a step left, the last of them
// first. Somebody who looked may say it otherwise. What a step wants stands before its
// work, and nothing is handed over that is not back.

// moment is when something was left so, and by whom.
type moment struct {
	state string
	seq   int
	title string // of the step
	by    string
	at    time.Time
}

// findLeft gives the moments of one condition, in the order in which they happened.
func (s *State) findLeft(c *book.Standing) (list []moment) {
	if group, is := strings.CutPrefix(c.ID, book.KeyOfTorque("")); is && NotHere(s, group) != "" {
		return nil
	}
	for _, ch := range c.Changes {
		step, ok := s.Plan.ByID[ch.Step]
		if !ok || ch.State == "" || s.IsSkipped(step) {
			continue
		}
		if e := s.findLeaver(step, ch); e != nil {
			list = append(list, moment{ch.State, firstSaid(s, e), step.Title, e.By.Name, e.At})
		}
	}
	for i := range s.Entries {
		e := &s.Entries[i]
		if said, is := e.ReadAct().(*acts.Stands); is && s.Superseded[i] == 0 && s.Plan.standing(e.Item.String()) == c {
			list = append(list, moment{said.Outcome, firstSaid(s, e), titleOf(s, e.Step), e.By.Name, e.At})
		}
	}
	slices.SortStableFunc(list, func(a, b moment) int { return cmp.Compare(a.seq, b.seq) })
	return list
}

// findLeaver is the entry that left it so; nil while there is none. Parts are out as soon
// as one is off; everything else is so when its step is done.
func (s *State) findLeaver(step *Step, ch book.Changed) *Entry {
	st := s.At(step)
	var last *Entry
	for e := range st.Each(st.Live) {
		var answered bool
		switch said := e.ReadAct().(type) {
		case *acts.Outcome:
			answered = ch.Item != "" && e.Item == ReadPlace(ch.Item) && said.Outcome == ch.Outcome
		case *acts.Decision:
			answered = ch.Item == "" && ch.Outcome != "" && said.Outcome == ch.Outcome
		}
		if answered || (ch.Outcome == "" && !s.Plan.isRemark(step, e)) {
			last = e
		}
	}
	if last == nil || ch.Outcome != "" || step.Work == book.Remove || Needs(s, step).IsMet() {
		return last
	}
	return nil
}

// isRemark tells of an entry by which no hand moved.
func (p *Plan) isRemark(step *Step, e *Entry) bool {
	if step.Rules.Hazards && e.Is(acts.Acknowledge{}) {
		return false // to read them is its work
	}
	a := step.act(e.Act)
	return a == nil || a.Early || a.Remark || e.Is(acts.Stands{}) || e.Is(acts.Strike{})
}

// firstSaid is when an entry was said for the first time, before it was corrected.
func firstSaid(s *State, e *Entry) int {
	for e.Supersedes != "" {
		i := slices.IndexFunc(s.Entries, func(x Entry) bool { return x.ID == e.Supersedes })
		if i < 0 {
			break
		}
		e = &s.Entries[i]
	}
	return e.Seq
}

// standing finds the condition that a key names.
func (p *Plan) standing(key string) *book.Standing {
	for i := range p.stands {
		c := &p.stands[i]
		stack, _, _ := strings.Cut(key, ".")
		if c.ID == key || (c.ID == stack && p.ByID[stack] != nil) {
			return c
		}
	}
	return nil
}

// stateOf is how a condition stands now.
func stateOf(s *State, c *book.Standing) (state string, since moment) {
	if list := s.findLeft(c); len(list) > 0 {
		since = list[len(list)-1]
		return since.state, since
	}
	return c.Home(), moment{}
}

// WantView is what a step wants to stand so before a hand is put to it.
type WantView struct {
	Key  string `json:"key"`  // of the condition, as the route writes it
	Says string `json:"says"` // Carrier out
	So   bool   `json:"so"`   // by the record, or by who has looked
	// Now is how it stands by the record instead, and since which step.
	Now string `json:"now,omitempty"`
	// State is what is said of it by who has looked.
	State string `json:"state"`
}

// wantsOf are the wants of a step, as they stand.
func wantsOf(s *State, step *Step) (list []WantView) {
	for i := range s.Plan.stands {
		c := &s.Plan.stands[i]
		for _, w := range c.Wants {
			if w.Step != step.ID || step.Wants[w.Key] == "" {
				continue
			}
			now, since := stateOf(s, c)
			v := WantView{Key: w.Key, Says: w.Named + " " + w.Any[0], So: slices.Contains(w.Any, now), State: w.Any[0]}
			if !v.So {
				v.Now = w.Named + " still " + now
				if since.title != "" {
					v.Now = w.Named + " " + now + ", by " + "\"" + since.title + "\""
				}
			}
			list = append(list, v)
		}
	}
	return list
}

// inTheWay says what does not stand as a step wants it; empty when all does, and once
// a hand was put to the step.
func inTheWay(s *State, step *Step) (says []string) {
	if len(step.Wants) == 0 || hasBegun(s, step) {
		return nil
	}
	for _, w := range wantsOf(s, step) {
		if !w.So {
			says = append(says, w.Says)
		}
	}
	return says
}

// hasBegun tells that somebody put a hand to a step.
func hasBegun(s *State, step *Step) bool {
	st := s.At(step)
	for e := range st.Each(st.Live) {
		if !s.Plan.isRemark(step, e) {
			return true
		}
	}
	return false
}

// standsRight: what a step wants is so by the record, or somebody looked.
func (p *Attempt) standsRight() error {
	if p.act.Early || p.act.Whole || p.Old != nil || p.Is(acts.Skip{}) || p.Is(acts.Stands{}) ||
		p.Is(acts.Acknowledge{}) {
		return nil
	}
	if says := inTheWay(p.State, p.Step); len(says) > 0 {
		return say.Refuse(say.GateClosed, say.StandsOtherwise, strings.Join(says, ", "))
	}
	return nil
}

// Against says what stands otherwise than an answer wants it; empty where it is possible.
func Against(s *State, wants book.States) string {
	for key, wanted := range wants {
		if c := s.Plan.standing(key); c != nil {
			if now, _ := stateOf(s, c); !slices.Contains(book.Either(wanted), now) {
				return c.Says(now)
			}
		}
	}
	return ""
}

func acceptStands(p *Attempt) error {
	said := Saying[acts.Stands](p)
	key := p.Draft.Item.String()
	if c := p.State.Plan.standing(key); c != nil && p.Step.Role == string(people.Lead) {
		said.Outcome = c.Home()
		return p.WantReason("how it was put back, and by whom")
	}
	wanted, ok := p.Step.Wants[key]
	if !ok {
		return input.At("item", "what this step wants", "%q is none of it", key)
	}
	if !slices.Contains(book.Either(wanted), said.Outcome) {
		return input.At(
			"outcome",
			strings.Join(book.Either(wanted), ", "),
			"%q is not how it has to stand",
			said.Outcome,
		)
	}
	return nil
}

func standsWords(s *State, step *Step, e *Entry) string {
	for _, w := range wantsOf(s, step) {
		if ReadPlace(w.Key) == e.Item {
			return "looked: " + w.Says
		}
	}
	if c := s.Plan.standing(e.Item.String()); c != nil {
		return WithReason(say.Raise(c.Name)+" "+c.Home(), e.ReadAct())
	}
	return "looked"
}

// Undone is something that was undone along the way, and how it was put back.
type Undone struct {
	Key  string `json:"key,omitempty"` // of the condition
	Name string `json:"name"`          // Spring brakes
	Left string `json:"left"`          // caged: Air brakes?, Odo Marrin
	// Back is how it was put back; empty while it is open.
	Back string `json:"back,omitempty"`
	// Find is the entry of what came off beside the plan, where it was that.
	Find string `json:"find,omitempty"`
}

// AllUndone lists what was undone on a rebuild, what is still open first.
func AllUndone(s *State) []Undone {
	list := []Undone{}
	for i := range s.Plan.stands {
		c := &s.Plan.stands[i]
		var away, back *moment
		for _, m := range s.findLeft(c) {
			if m.state == c.Home() {
				back = &m
			} else {
				away, back = &m, nil
			}
		}
		if away == nil {
			continue
		}
		u := Undone{Key: c.ID, Name: say.Raise(c.Name), Left: away.words()}
		if back != nil {
			u.Back = back.words()
		}
		list = append(list, u)
	}
	list = append(list, cameOff(s)...)
	slices.SortStableFunc(list, func(a, b Undone) int { return min(1, len(a.Back)) - min(1, len(b.Back)) })
	return list
}

func (m moment) words() string { return say.Of(m.state, m.title) + ", " + m.by }

// cameOff is what had to come off beside the plan, said with what was found.
func cameOff(s *State) (list []Undone) {
	for i, e := range s.Entries {
		found, is := e.ReadAct().(*acts.Found)
		if !is || s.Superseded[i] > 0 || found.Off == "" {
			continue
		}
		u := Undone{
			Name: say.Raise(found.Off),
			Left: moment{state: "off", title: titleOf(s, e.Step), by: e.By.Name}.words(),
			Find: e.ID,
		}
		for k, x := range s.Entries {
			if x.Is(acts.Back{}) && x.Item == ReadPlace(e.ID) && s.Superseded[k] == 0 {
				u.Back = moment{state: "back on", title: titleOf(s, x.Step), by: x.By.Name}.words()
			}
		}
		list = append(list, u)
	}
	return list
}

func titleOf(s *State, id string) string {
	if step, ok := s.Plan.Step(id); ok {
		return step.Title
	}
	return id
}

// NotBack are the things that are still undone.
func NotBack(s *State) (open []string) {
	for _, u := range AllUndone(s) {
		if u.Back == "" {
			open = append(open, u.Name+" "+u.Left)
		}
	}
	return open
}

func acceptBack(p *Attempt) error {
	at := p.Draft.Item.String()
	if !slices.ContainsFunc(
		cameOff(p.State),
		func(u Undone) bool { return u.Find == at && (u.Back == "" || p.Old != nil) },
	) {
		return input.At("item", "a find with something that came off and is not back", "%q is none", at)
	}
	return nil
}

func backWords(s *State, _ *Step, e *Entry) string {
	for _, u := range cameOff(s) {
		if ReadPlace(u.Find) == e.Item {
			return WithReason(u.Name+" back on", e.ReadAct())
		}
	}
	return "back on"
}
