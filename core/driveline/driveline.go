// Package driveline reasons about what turns when something is turned: a graph
// of shafts, clutches and differentials, observations made on the vehicle, and
// the failures that would explain them.
package driveline

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/core/calculator"
)

// Member of a driveline. Which fields it carries follows from its kind:
//
//	shaft, joint   a and b turn together
//	gear           a turns ratio times b
//	clutch         a and b turn together while engaged
//	one_way        a carries b forwards; b may run ahead of a
//	viscous        a drags b
//	differential   carrier = split·a + (1 − split)·b; limited ones hold a and b together by friction
type Member struct {
	ID      string  `json:"id"`
	Says    string  `json:"says,omitempty"`
	Kind    string  `json:"kind"`
	A       string  `json:"a"`
	B       string  `json:"b"`
	Carrier string  `json:"carrier,omitempty"` // differential
	Ratio   float64 `json:"ratio,omitempty"`   // gear: speed of a over speed of b, default 1
	Split   float64 `json:"split,omitempty"`   // differential: share of a, default 0.5
	Limited bool    `json:"limited,omitempty"` // differential with friction plates or torque biasing
	// EngagedBy is when a clutch carries, or a differential is locked (its lock
	// joins the carrier to side a, and through the gears to b):
	// "engine_on", "engine_off" or the name of a lock; a clutch without it
	// always carries, a differential without it has no lock.
	EngagedBy string `json:"engaged_by,omitempty"`
}

// Motion is what a shaft was seen to do, against the way of the one turned.
type Motion struct {
	Shaft string `json:"shaft"`
	Way   string `json:"way" enum:"same,opposite,still,moves"` // same, opposite, still, moves
}

// Observation is one trial on the vehicle.
type Observation struct {
	Says   string   `json:"says,omitempty"`
	Turned string   `json:"turned"`
	With   []string `json:"with,omitempty"`                           // turned along with it, at the same speed
	Way    string   `json:"way,omitempty" enum:"forward,backward"`    // forward (default), backward
	By     string   `json:"by,omitempty" enum:"hand,engine"`          // hand (default), engine
	Held   []string `json:"held,omitempty"`                           // shafts that cannot turn: brake, gear engaged
	Ground []string `json:"ground,omitempty"`                         // wheels standing on the ground: they roll together, and only if the vehicle moves
	Locks  []string `json:"locks,omitempty"`                          // locks that are in
	Engine string   `json:"engine,omitempty" enum:"off,on"`           // off (default), on
	Felt   string   `json:"felt,omitempty" enum:"light,drags,stands"` // light, drags, stands
	Moved  []Motion `json:"moved,omitempty"`
}

// In asks which failures explain the observations.
type In struct {
	Members      []Member      `json:"members"`
	Whole        []string      `json:"whole,omitempty"` // members looked at and found whole
	Observations []Observation `json:"observations"`
}

// Failure is a member with the way it has failed.
type Failure struct {
	Member string `json:"member"`
	Mode   string `json:"mode"`
	Says   string `json:"says"`
}

// Predicted is what one observation would show on a sound driveline.
type Predicted struct {
	Says  string   `json:"says"`
	Felt  string   `json:"felt"`
	Moved []Motion `json:"moved"`
	Fits  bool     `json:"fits"`
}

// Out is the answer.
type Out struct {
	Sound   bool         `json:"sound"` // a driveline without any failure would show the same
	Singles []Failure    `json:"singles"`
	Doubles [][2]Failure `json:"doubles"` // those of which neither half explains everything alone
	Cleared []string     `json:"cleared"` // members that no answer needs
	Nominal []Predicted  `json:"nominal"`
	Clash   string       `json:"clash,omitempty"`
	Says    string       `json:"says"`
}

// Driveline gives every single failure that explains all observations, every
// double of which neither half does so alone, and the members that are cleared.
//
// Turning slowly, each shaft resists with a friction torque R, so the motion is
// the one of least Σ R·|ω| under the equations of the members: ω_a = i·ω_b for
// gears, ω_c = s·ω_a + (1−s)·ω_b for differentials; torques balance of
// themselves (they are the multipliers). Friction between the sides of a
// limited differential, and a viscous coupling before it creeps, add
// R·|ω_a − ω_b|. The power over the speed turned is what the hand feels. Where
// several motions cost the same, an observation fits that shows any of them.
//
// Up to 60 members, 12 of them differentials, viscous or one-way clutches, and
// 30 observations. Bad input comes back as fault.Fields.
// Source: kinematics of the bevel differential; least dissipation of rate-independent friction, solved
// exactly as weighted least absolute values (Barrodale and Roberts, 1973);
// minimal diagnoses after Reiter (1987); sizes of the drags are judgement.
func Driveline(in In) (Out, error) {
	m, err := in.model()
	if err != nil {
		return Out{}, err
	}
	out := Out{Singles: []Failure{}, Doubles: [][2]Failure{}, Cleared: []string{}, Nominal: m.nominal()}
	all := m.failures()
	m.hardestFirst()
	out.Sound = m.explains(m.observed, nil)
	single := make([]bool, len(all))
	for i := range all {
		if single[i] = m.explains(m.observed, all[i:i+1]); single[i] {
			out.Singles = append(out.Singles, m.say(all[i]))
		}
	}
	if !out.Sound {
		for _, pair := range m.doubles(all, single) {
			out.Doubles = append(out.Doubles, [2]Failure{m.say(pair[0]), m.say(pair[1])})
		}
	}
	out.Cleared = cleared(in.Members, out)
	out.Says, out.Clash = m.conclude(out, all)
	return out, nil
}

// DrivelineMethod is Driveline as the catalogue lists it.
var DrivelineMethod = calculator.Define(examples, calculator.About{
	Name: "driveline", Version: 2,
	Purpose: "which broken, stuck or worn members explain what turned and what stood when a wheel or shaft " +
		"was turned, and which are cleared",
	Formula: "least Σ R·|ω| under ω_a = i·ω_b and ω_c = s·ω_a + (1−s)·ω_b; every single failure, and pairs " +
		"of which neither half explains all",
	Assumes: "turned slowly; friction torques of a free shaft, plates, a coupling and a wheel on the ground " +
		"far apart; up to 60 members, 12 of them differentials, viscous or one-way clutches",
	Sources: []string{"kinematics of the bevel differential", "minimal diagnoses, Reiter (1987)",
		"coupling creeps at 50 to 60 N·m: " + calculator.Practice},
}, Driveline)

// hardestFirst puts what a sound driveline does not explain in front: there
// most failures fall out at once.
func (m *model) hardestFirst() {
	slices.SortStableFunc(m.observed, func(a, b observation) int {
		return m.rank(&a) - m.rank(&b)
	})
}

func (m *model) rank(o *observation) int {
	if m.shows(o, nil) {
		return 1
	}
	return 0
}

// doubles tries all pairs of failures in two members of which neither is a
// single answer. What refuted the last pair refutes most others: it is asked first.
func (m *model) doubles(all []failure, single []bool) [][2]failure {
	var found [][2]failure
	var pair [2]failure
	last := 0
	for i := range all {
		if single[i] {
			continue
		}
		for j := i + 1; j < len(all); j++ {
			if single[j] || all[i].member == all[j].member {
				continue
			}
			pair = [2]failure{all[i], all[j]}
			if !m.shows(&m.observed[last], pair[:]) {
				continue
			}
			if by := m.refuter(m.observed, pair[:]); by >= 0 {
				last = by
				continue
			}
			found = append(found, pair)
		}
	}
	return found
}

func cleared(members []Member, out Out) []string {
	suspect := map[string]bool{}
	for _, f := range out.Singles {
		suspect[f.Member] = true
	}
	for _, d := range out.Doubles {
		suspect[d[0].Member], suspect[d[1].Member] = true, true
	}
	list := []string{}
	for _, x := range members {
		if !suspect[x.ID] {
			list = append(list, x.ID)
		}
	}
	return list
}

// conclude puts the answer into words.
func (m *model) conclude(out Out, all []failure) (says, clash string) {
	switch {
	case out.Sound && len(out.Singles) == 0:
		return "all sound: any fault would have shown", ""
	case out.Sound:
		return "no sign of a fault; not ruled out yet: " + words(out.Singles), ""
	case len(out.Singles) > 0:
		return words(out.Singles), ""
	case len(out.Doubles) == 1:
		return "no single failure explains it; together: " + words(out.Doubles[0][:]), ""
	case len(out.Doubles) > 0:
		return fmt.Sprintf("no single failure explains it; %d pairs do: %s, …", len(out.Doubles),
			words(out.Doubles[0][:])), ""
	}
	clash = m.clash(all)
	return clash, clash
}

// clash names the observation without which a single failure would do.
func (m *model) clash(all []failure) string {
	for i := range m.observed {
		rest := slices.Delete(slices.Clone(m.observed), i, i+1)
		if m.explains(rest, nil) {
			return fmt.Sprintf(
				"no fault explains this; without %q everything would be sound: check that one again",
				m.observed[i].says,
			)
		}
		for j := range all {
			if m.explains(rest, all[j:j+1]) {
				return fmt.Sprintf("no fault explains this; without %q it would be: %s. Check that one again",
					m.observed[i].says, m.say(all[j]).Says)
			}
		}
	}
	return "no fault explains all of this: check each observation again"
}

func words(list []Failure) string {
	var says []string
	for _, f := range list[:min(4, len(list))] {
		says = append(says, f.Says)
	}
	if len(list) > 4 {
		says = append(says, "…")
	}
	return strings.Join(says, "; ")
}
