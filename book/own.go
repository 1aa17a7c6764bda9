package book

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// OwnRoute is what a shop does otherwise on a route of the book.
type OwnRoute struct {
	Unused bool               `json:"unused,omitempty"` // not offered when a unit is taken in
	Steps  map[string]OwnStep `json:"steps,omitempty"`  // by the step's id
	Added  []Added            `json:"added,omitempty"`  // pieces of the book put in, in this order
}

// OwnStep is what is otherwise at one step; what is empty stays as the book has it.
type OwnStep struct {
	LeftOut bool           `json:"left_out,omitempty"`
	Title   string         `json:"title,omitempty"`
	Say     string         `json:"say,omitempty"`
	Minutes quantity.Count `json:"minutes,omitempty"` // it takes here
	School  string         `json:"school,omitempty"`  // of a wait or a decision: the way proposed first
}

// Added is a fragment of the book, put in behind a step.
type Added struct {
	Fragment string            `json:"fragment"`
	Behind   string            `json:"behind"`       // id of a step
	As       string            `json:"as,omitempty"` // its id here, where its own is taken
	With     map[string]string `json:"with,omitempty"`
}

// bounds of what a shop may say of a route.
const (
	maxOwnTitle   = 120
	maxOwnSay     = 600
	maxOwnMinutes = 10_000
	maxAdded      = 60
)

// Going gives a route of the book as the shop goes it, checked as the book's
// own are: what would leave a mechanic stuck is refused, with the place in own.
func (b Book) Going(r Route, own OwnRoute) (Route, error) {
	asBook := r
	r = r.cloned()
	var faults input.Fields
	if len(own.Added) > maxAdded {
		return r, input.At("added", fmt.Sprintf("up to %d pieces", maxAdded), "%d are too many", len(own.Added))
	}
	for i, a := range own.Added {
		faults = append(faults, r.put(b, input.Index("added", i), a)...)
	}
	for _, id := range slices.Sorted(maps.Keys(own.Steps)) {
		faults = append(faults, r.say(b, id, own.Steps[id])...)
	}
	r.leave(own)
	if len(faults) > 0 {
		return r, faults
	}
	for _, s := range r.Steps() {
		if _, _, there := asBook.Step(s.ID); !there {
			b.completeStep(r.at(s.ID), r)
		}
	}
	for _, f := range slices.Concat(r.asWritten().Check(b.Known()), b.CheckDiagnosis(r)) {
		faults.Add(r.whose(f.Path), f.Accepted, "%s", f.Problem)
	}
	return r, faults.Err()
}

// put sets a fragment's steps behind one of the route's.
func (r *Route) put(b Book, at string, a Added) input.Fields {
	i := slices.IndexFunc(b.Fragments, func(f Fragment) bool { return f.ID == a.Fragment })
	if i < 0 {
		return input.Fields{
			{
				Path: input.Join(at, "fragment"), Problem: fmt.Sprintf("the book has no piece %q", a.Fragment),
				Accepted: "a fragment of the book",
			},
		}
	}
	steps, err := b.Fragments[i].read(at, a)
	if err != nil {
		return input.Below("", err)
	}
	for k, st := range r.Stations {
		j := slices.IndexFunc(st.Steps, func(s Step) bool { return s.ID == a.Behind })
		if j < 0 {
			continue
		}
		for n := range steps {
			if len(steps[n].After) == 0 {
				steps[n].After = []string{a.Behind}
			}
		}
		r.Stations[k].Steps = slices.Insert(st.Steps, j+1, steps...)
		return nil
	}
	return input.Fields{
		{
			Path: input.Join(at, "behind"), Problem: fmt.Sprintf("%q is no step of this route", a.Behind),
			Accepted: "a step of this route",
		},
	}
}

// say sets what the shop says of a step.
func (r *Route) say(b Book, id string, own OwnStep) input.Fields {
	var faults input.Fields
	at := input.Join("steps", id)
	step := r.at(id)
	if step == nil {
		faults.Add(at, "a step of this route", "%q is not a step here", id)
		return faults
	}
	switch {
	case own.LeftOut && (b.Kinds[step.Kind].Hazards || b.warnsGravely(*step)):
		faults.Add(input.Join(at, "left_out"), "cautions stay where the hand is", "%q warns of a hazard", step.Title)
	case own.LeftOut && step.Role == "lead":
		faults.Add(input.Join(at, "left_out"), "what only a lead may do stays", "%q is the lead's", step.Title)
	}
	for _, text := range []struct {
		name, says string
		most       int
		to         *string
	}{{"title", own.Title, maxOwnTitle, &step.Title}, {"say", own.Say, maxOwnSay, &step.Say}} {
		says := strings.Join(strings.Fields(text.says), " ")
		if n := len([]rune(says)); n > text.most {
			faults.Add(input.Join(at, text.name), fmt.Sprintf("up to %d characters", text.most), "%d are too long", n)
		} else if says != "" {
			*text.to = says
		}
	}
	if own.Minutes < 0 || own.Minutes > maxOwnMinutes {
		faults.Add(input.Join(at, "minutes"), fmt.Sprintf("0 to %d minutes", maxOwnMinutes),
			"%d is not a time a step takes", own.Minutes)
	} else if own.Minutes > 0 {
		step.Minutes = int(own.Minutes)
	}
	if own.School != "" && !step.prefer(own.School) {
		faults.Add(input.Join(at, "school"), strings.Join(step.ways(), ", "), "%q is no way of %q", own.School,
			step.Title)
	}
	return faults
}

// warnsGravely: one of the step's own cautions is acknowledged before it.
func (b Book) warnsGravely(s Step) bool {
	return slices.ContainsFunc(b.Cautions, func(x Caution) bool { return x.Grave && slices.Contains(s.Cautions, x.ID) })
}

// at finds a step to change it.
func (r *Route) at(id string) *Step {
	for i := range r.Stations {
		for j := range r.Stations[i].Steps {
			if s := &r.Stations[i].Steps[j]; s.ID == id {
				return s
			}
		}
	}
	return nil
}

// ways are the ids of the schools or choices of a step.
func (s Step) ways() []string {
	ids := []string{}
	for _, x := range s.Schools {
		ids = append(ids, x.ID)
	}
	for _, x := range s.Choices {
		ids = append(ids, x.ID)
	}
	return ids
}

// prefer makes one way the default, if the step has it.
func (s *Step) prefer(id string) bool {
	if !slices.Contains(s.ways(), id) {
		return false
	}
	s.Schools, s.Choices = slices.Clone(s.Schools), slices.Clone(s.Choices)
	for i := range s.Schools {
		s.Schools[i].Default = s.Schools[i].ID == id
	}
	for i := range s.Choices {
		s.Choices[i].Default = s.Choices[i].ID == id
	}
	return true
}

// leave takes out the steps the shop leaves out. What waited for one waits for
// what that one waited for.
func (r *Route) leave(own OwnRoute) {
	gates := map[string][]string{}
	for _, s := range r.Steps() {
		if own.Steps[s.ID].LeftOut {
			gates[s.ID] = s.After
		}
	}
	for i := range r.Stations {
		st := &r.Stations[i]
		st.Steps = slices.DeleteFunc(st.Steps, func(s Step) bool { _, out := gates[s.ID]; return out })
		for j := range st.Steps {
			st.Steps[j].After = waitingFor(st.Steps[j].After, gates, map[string]bool{})
		}
	}
	r.Stations = slices.DeleteFunc(r.Stations, func(st Station) bool { return len(st.Steps) == 0 })
}

func waitingFor(after []string, gone map[string][]string, seen map[string]bool) []string {
	var left []string
	for _, id := range after {
		if seen[id] {
			continue
		}
		seen[id] = true
		if through, out := gone[id]; out {
			left = append(left, waitingFor(through, gone, seen)...)
		} else {
			left = append(left, id)
		}
	}
	return left
}

// asWritten takes back what Complete copies from one step to another, and the
// check refuses to find there.
func (r Route) asWritten() Route {
	r = r.cloned()
	for i := range r.Stations {
		for j := range r.Stations[i].Steps {
			if s := &r.Stations[i].Steps[j]; s.Fill != nil && s.Fill.Like != "" {
				s.Fill = &FillSpec{Like: s.Fill.Like}
			}
		}
	}
	return r
}

// whose names the step of a path by its id: "stations[2].steps[0].after[1]" is
// "steps.sealant.after[1]".
func (r Route) whose(path string) string {
	var i, j int
	if n, _ := fmt.Sscanf(path, "stations[%d].steps[%d]", &i, &j); n < 2 || i >= len(r.Stations) ||
		j >= len(r.Stations[i].Steps) {
		return path
	}
	rest := strings.TrimPrefix(path, fmt.Sprintf("stations[%d].steps[%d]", i, j))
	return "steps." + r.Stations[i].Steps[j].ID + rest
}

// cloned is the route with steps of its own; what is in them is shared.
func (r Route) cloned() Route {
	r.Stations = slices.Clone(r.Stations)
	for i := range r.Stations {
		r.Stations[i].Steps = slices.Clone(r.Stations[i].Steps)
	}
	return r
}
