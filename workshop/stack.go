package workshop

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

// StackPart is one part of a stack with all that was done with it.
type StackPart struct {
	book.Part
	Extra    bool   `json:"extra,omitempty"` // not on the plan: found there
	Removed  string `json:"removed,omitempty"`
	Tray     string `json:"tray,omitempty"`
	Seen     string `json:"seen,omitempty"` // the direction as it was found
	Photo    string `json:"photo,omitempty"`
	Verdict  string `json:"verdict,omitempty"`
	Reason   string `json:"reason,omitempty"`
	Fitted   string `json:"fitted,omitempty"`
	NotFound bool   `json:"not_found,omitempty"`
}

// The words for a part.
const (
	partRemoved  = "removed"
	partNotFound = "not-found"
	partReuse    = "reuse"
	partRework   = "rework"
	partReplace  = "replace"
	partFitted   = "fitted"
	partLeftOut  = "left-out"
)

// foundPrefix begins the ids of parts that the plan does not list.
const foundPrefix = "found-"

// Stack lists the parts of the stack a step works on, in the order they came
// off, those still on after them; what inspection and fitting said is joined in.
func (s *State) Stack(step book.Step) []StackPart {
	removal := step
	if step.Of != "" {
		removal = s.plan.steps[s.plan.at[step.Of]]
	}
	parts := s.removedParts(removal)
	index := map[string]int{}
	for i, p := range parts {
		index[p.ID] = i
	}
	for _, other := range s.plan.steps {
		if other.Kind != book.Stack || other.Of != removal.ID {
			continue
		}
		st := s.of(other.ID)
		for e := range st.each(st.live) {
			i, ok := index[e.Item]
			if !ok {
				continue
			}
			said := e.Said()
			switch e.Act {
			case ActVerdict:
				parts[i].Verdict, parts[i].Reason = said.Outcome, said.Reason
			case ActFitted:
				parts[i].Fitted = said.Outcome
			}
		}
	}
	return parts
}

// removedParts lists what came off in order, then what is still on.
func (s *State) removedParts(removal book.Step) []StackPart {
	var parts []StackPart
	st := s.of(removal.ID)
	for e := range st.each(st.live) {
		if e.Act != ActRemoved {
			continue
		}
		said := e.Said()
		part := StackPart{Removed: said.Outcome, Tray: said.Tray, Seen: said.Faces, Photo: said.Photo, NotFound: said.Outcome == partNotFound}
		if i := slices.IndexFunc(removal.Parts, func(x book.Part) bool { return x.ID == e.Item }); i >= 0 {
			part.Part = removal.Parts[i]
		} else {
			part.Part, part.Extra = book.Part{ID: e.Item, Name: said.Name, Faces: said.Faces}, true
		}
		parts = append(parts, part)
	}
	// A corrected entry stands later in the record than where the part came
	// off; the plan's order puts it back.
	slices.SortStableFunc(parts, func(a, b StackPart) int { return planIndex(removal, a) - planIndex(removal, b) })
	for _, p := range removal.Parts {
		if !slices.ContainsFunc(parts, func(x StackPart) bool { return x.ID == p.ID }) {
			parts = append(parts, StackPart{Part: p})
		}
	}
	return parts
}

// planIndex orders parts by the plan; found ones come after the part before them.
func planIndex(removal book.Step, p StackPart) int {
	if i := slices.IndexFunc(removal.Parts, func(x book.Part) bool { return x.ID == p.ID }); i >= 0 {
		return i
	}
	return len(removal.Parts)
}

// needsParts counts by place alone; it runs for every sheet and reads no bodies.
func needsParts(s *State, step book.Step) string {
	removal, act := step, ActRemoved
	if step.Of != "" {
		removal = s.plan.steps[s.plan.at[step.Of]]
		act = map[book.StackWork]Act{book.Inspect: ActVerdict, book.Fit: ActFitted}[step.Work]
	}
	st, left := s.of(step.ID), 0
	count := func(id string) {
		if _, ok := st.has(act, id); !ok {
			left++
		}
	}
	for _, p := range removal.Parts {
		count(p.ID)
	}
	off := s.of(removal.ID)
	for e := range off.each(off.live) {
		if e.Act == ActRemoved && strings.HasPrefix(e.Item, foundPrefix) {
			count(e.Item)
		}
	}
	return countOf(left, "part", "parts")
}

func acceptPart(p *proposal) error {
	want := map[book.StackWork]Act{book.Remove: ActRemoved, book.Inspect: ActVerdict, book.Fit: ActFitted}[p.step.Work]
	if p.draft.Act != want {
		return input.At("act", string(want), "%q is not done at this step", p.draft.Act)
	}
	parts := p.state.Stack(p.step)
	if p.step.Work == book.Remove {
		return p.acceptRemoved(parts)
	}
	i := slices.IndexFunc(parts, func(x StackPart) bool { return x.ID == p.draft.Item })
	if i < 0 {
		return input.At("item", idsOf(parts, func(x StackPart) string { return x.ID }), "%q is not a part of this stack", p.draft.Item)
	}
	if p.step.Work == book.Inspect {
		return p.acceptVerdict(parts[i])
	}
	return p.acceptFitted(parts, i)
}

func (p *proposal) acceptRemoved(parts []StackPart) error {
	if err := p.outcomeAmong(partRemoved + ", " + partNotFound); err != nil {
		return err
	}
	if slices.ContainsFunc(parts, func(x StackPart) bool { return x.ID == p.draft.Item }) {
		if p.draft.Name != "" && !strings.HasPrefix(p.draft.Item, foundPrefix) {
			return input.At("name", "only for parts the plan does not list", "the plan names this part already")
		}
		return nil
	}
	if strings.TrimSpace(p.draft.Name) == "" {
		return input.At("name", "what the part is", "a part the plan does not list needs a name")
	}
	p.draft.Item = fmt.Sprintf("%s%d", foundPrefix, len(parts)+1)
	return nil
}

func (p *proposal) acceptVerdict(part StackPart) error {
	if err := p.outcomeAmong(strings.Join([]string{partReuse, partRework, partReplace, partNotFound}, ", ")); err != nil {
		return err
	}
	switch {
	case p.draft.Outcome == partReuse && part.Once:
		return input.At("outcome", "replace", "%s is always replaced once disturbed", part.Name)
	case p.draft.Outcome == partReuse && part.NotFound:
		return input.At("outcome", "replace, not-found", "%s was not there when the unit was taken apart", part.Name)
	case p.draft.Outcome == partReuse || (p.draft.Outcome == partReplace && part.Once):
		return nil
	}
	return p.reason("what was seen on the part")
}

func (p *proposal) acceptFitted(parts []StackPart, i int) error {
	if err := p.outcomeAmong(partFitted + ", " + partLeftOut); err != nil {
		return err
	}
	if p.draft.Outcome == partLeftOut {
		if err := p.reason("why the part stays out"); err != nil {
			return err
		}
	}
	if p.old != nil {
		return nil
	}
	for j := len(parts) - 1; j > i; j-- {
		if parts[j].Fitted == "" {
			return refuse(GateClosed, "%s goes in before %s", parts[j].Name, parts[i].Name)
		}
	}
	return nil
}
