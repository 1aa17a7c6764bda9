package book_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	. "handwerk/book"
	"handwerk/workshop/kinds"
)

// battery and brakes are conditions as a book has them.
var battery = []Condition{
	{ID: "battery", Name: "Battery", States: []string{"connected", "off"}},
	{ID: "brakes", Name: "Spring brakes", States: []string{"working", "caged"}},
	{ID: "oil", Name: "Oil", States: []string{"in", "out"}},
}

func leaving(s Step, states States) Step { s.Leaves = states; return s }

func wanting(s Step, states States) Step { s.Wants = states; return s }

// answering gives a step one line with two answers, each with what it leaves.
func answering(s Step, outcomes ...Outcome) Step {
	s.Items = []Item{{ID: "x", Text: "X", Outcomes: outcomes}}
	return s
}

func deciding(id string, after []string, choices ...Choice) Step {
	return Step{ID: id, Kind: Decide, Title: id, Say: "Decide.", After: after, Choices: choices}
}

// One broken route for each law, and beside it the same one mended.
func TestWhatStandsWhereOnARoute(t *testing.T) {
	t.Parallel()
	off, on := States{"battery": "off"}, States{"battery": "connected"}
	yes := func(id string, left States) Outcome { return Outcome{ID: id, Text: id, Good: true, Leaves: left} }
	bolts := func(id string, after ...string) Step {
		return Step{
			ID:     id,
			Kind:   Torque,
			Title:  id,
			Say:    "Tighten.",
			Group:  "wheels",
			Wrench: &Wrench{Unit: "N·m"},
			After:  after,
		}
	}
	strip := Step{
		ID:    "strip",
		Kind:  Stack,
		Work:  Remove,
		Title: "Strip",
		Say:   "x",
		Parts: []Part{{ID: "nut", Name: "Nut"}},
	}
	build := Step{ID: "build", Kind: Stack, Work: Fit, Title: "Build", Say: "x", Of: "strip", After: []string{"strip"}}
	end := func(after ...string) Step { return step("end", after...) }
	for _, tt := range []struct {
		name   string
		steps  []Step
		says   string // empty: the route is sound
		caught string
	}{
		{"put back", []Step{leaving(step("a"), off), leaving(step("b", "a"), on), end("b")}, "", ""},
		{"left off", []Step{leaving(step("a"), off), end("a")}, "Battery may still be off since \"a\"", "stations[0].steps[1]"},
		{"put back by one answer only", []Step{leaving(step("a"), off),
			answering(step("b", "a"), yes("on", on), yes("later", nil)), end("b")},
			"Battery may still be off since \"a\"", "stations[0].steps[2]"},
		{"put back by every answer", []Step{leaving(step("a"), off),
			answering(step("b", "a"), yes("on", on), yes("new", on)), end("b")}, "", ""},
		{"put back by one way of a decision only", []Step{leaving(step("a"), off),
			deciding("b", []string{"a"}, Choice{ID: "x", Text: "X", Leaves: on}, Choice{ID: "y", Text: "Y"}), end("b")},
			"Battery may still be off", "stations[0].steps[2]"},
		{"a way that does without the step that puts it back", []Step{leaving(step("a"), off),
			deciding("b", []string{"a"}, Choice{ID: "x", Text: "X", Without: []string{"c"}}, Choice{ID: "y", Text: "Y"}),
			leaving(step("c", "b"), on), end("c")}, "Battery may still be off", "stations[0].steps[3]"},
		{"a line that another answer ends", []Step{leaving(step("a"), off),
			{ID: "b", Kind: Check, Title: "b", Say: "Look.", After: []string{"a"}, Items: []Item{
				{ID: "x", Text: "X", Outcomes: []Outcome{{ID: "on", Text: "On", Good: true, Leaves: on}}},
				{ID: "y", Text: "Y", Outcomes: []Outcome{{ID: "stop", Text: "Stop", Good: true, Ends: true}}},
			}}, end("b")}, "Battery may still be off", "stations[0].steps[2]"},
		{"an answer that is only possible so", []Step{
			answering(step("a"), yes("none", nil), yes("caged", States{"brakes": "caged"})),
			answering(step("b", "a"), Outcome{ID: "none", Text: "None", Good: true, Wants: States{"brakes": "working"}},
				Outcome{ID: "back", Text: "Back", Good: true, Wants: States{"brakes": "caged"},
					Leaves: States{"brakes": "working"}}), end("b")}, "", ""},
		{"put back after the hand-over", []Step{leaving(step("a"), off), leaving(step("b", "a"), on), end("a")},
			"Battery may still be off since \"a\"", "stations[0].steps[2]"},
		{"wanted before it is so", []Step{leaving(step("a"), off), wanting(step("b"), off),
			leaving(step("c", "a", "b"), on), end("c")}, "when the gates are open, Battery may be connected",
			"stations[0].steps[1].wants.battery"},
		{"wanted behind its gate", []Step{leaving(step("a"), off), wanting(step("b", "a"), off),
			leaving(step("c", "b"), on), end("c")}, "", ""},
		{"wanted, and another may undo it first", []Step{leaving(step("a"), off), wanting(step("b", "a"), off),
			leaving(step("c", "a"), on), end("b", "c")}, "may be connected since \"c\"", "stations[0].steps[1].wants.battery"},
		{"done that is so", []Step{leaving(step("a"), on), end("a")}, "Battery is connected already", "stations[0].steps[0]"},
		{"torqued, loosened, forgotten", []Step{leaving(bolts("w"), nil), end("w")}, "w is at torque already", ""},
		{"loosened and torqued", []Step{leaving(step("a"), States{"torque.wheels": "loose"}), bolts("w", "a"), end("w")}, "", ""},
		{"a torque loosened again", []Step{leaving(step("a"), States{"torque.wheels": "loose"}), bolts("w", "a"),
			leaving(step("b", "w"), States{"torque.wheels": "loose"}), end("b")},
			"w may still be loose since \"b\"", "stations[0].steps[3]"},
		{"parts that stay out", []Step{strip, end("strip")}, "may still be out", ""},
		{"parts that go back", []Step{strip, build, end("build")}, "", ""},
		{"a part wanted in while it is out", []Step{strip, wanting(step("m", "strip"), States{"strip.nut": "in"}), build,
			end("build", "m")}, "may be out since \"strip\"", "stations[0].steps[1].wants.strip.nut"},
		{"a part wanted out", []Step{strip, wanting(step("m", "strip"), States{"strip.nut": "out"}),
			func() Step { b := build; b.After = []string{"m"}; return b }(), end("build")}, "", ""},
		{"a state that there is not", []Step{leaving(step("a"), States{"battery": "flat"})}, "Battery is never \"flat\"",
			"stations[0].steps[0].leaves.battery"},
		{"a thing that there is not", []Step{wanting(step("a"), States{"radio": "off"})}, "\"radio\" is none",
			"stations[0].steps[0].wants.radio"},
		{"a step that goes with none", []Step{{ID: "a", Kind: Photo, Title: "A", Say: "x", OnlyWith: "z"}},
			"\"z\" is not one", "stations[0].steps[0].only_with"},
	} {
		t.Run(tt.name, func(t *testing.T) {
			t.Parallel()
			faults := route(tt.steps...).Check(Known{Kinds: kinds.Natures(), Conditions: battery})
			if tt.says == "" {
				assert.Empty(t, faults)
				return
			}
			assert.ErrorContains(t, faults, tt.says)
			if tt.caught != "" {
				assert.Contains(t, paths(faults), tt.caught)
			}
		})
	}
}

// A caution stands only where what it speaks of can be.
func TestACautionStandsWhereItCanBe(t *testing.T) {
	t.Parallel()
	known := Known{Kinds: kinds.Natures(), Conditions: battery, Cautions: map[string]bool{"caging": true},
		CautionsIn: map[string]States{"caging": {"brakes": "caged"}}}
	caged, back := States{"brakes": "caged"}, States{"brakes": "working"}
	warning := func(s Step) Step { s.Cautions = []string{"caging"}; return s }
	assert.Empty(
		t,
		route(warning(leaving(step("a"), caged)), leaving(step("b", "a"), back), step("end", "b")).Check(known),
	)
	assert.Equal(t, []string{"stations[0].steps[0].cautions[0]"}, paths(route(
		warning(
			step("drive"),
		),
		leaving(step("a", "drive"), caged),
		leaving(step("b", "a"), back),
		step("end", "b"),
	).Check(known)),
		"nothing is caged at a drive")
}

// Whatever the order of gates, what a sound route leaves at its end is home: a walk of
// one's own along a random order never ends otherwise.
func TestASoundRouteComesHomeOnAnyOrder(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var steps []Step
		for i := range rapid.IntRange(1, 7).Draw(t, "steps") {
			s := step(string(rune('a' + i)))
			for j := range i {
				if rapid.Bool().Draw(t, "gate") {
					s.After = append(s.After, steps[j].ID)
				}
			}
			if state := rapid.SampledFrom([]string{"", "connected", "off"}).Draw(t, "state"); state != "" {
				s.Leaves = States{"battery": state}
			}
			steps = append(steps, s)
		}
		end := step("end")
		for _, s := range steps {
			end.After = append(end.After, s.ID)
		}
		faults := route(append(steps, end)...).Check(Known{Kinds: kinds.Natures(), Conditions: battery})
		state, left := "connected", steps
		for len(left) > 0 {
			open := []int{}
			for i, s := range left {
				if !waitsForAny(s, left) {
					open = append(open, i)
				}
			}
			i := rapid.SampledFrom(open).Draw(t, "next")
			if s := left[i].Leaves["battery"]; s != "" {
				state = s
			}
			left = append(append([]Step{}, left[:i]...), left[i+1:]...)
		}
		if state == "off" {
			assert.NotEmpty(t, faults, "an order that ends with the battery off was let through")
		}
	})
}

func waitsForAny(s Step, left []Step) bool {
	for _, gate := range s.After {
		for _, other := range left {
			if other.ID == gate {
				return true
			}
		}
	}
	return false
}
