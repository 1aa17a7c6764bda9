package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// story is what a mechanic does on the screens from complaint to ordered parts;
// the plain steps between are put on record as a careful shop would.
type story struct {
	route     string
	complaint string // line=outcome
	look      func(p *Person, at string)
	tests     []string // line=outcome
	cause     string   // that leads then, in words
	verdicts  []judged
	root      string   // the cause that is found
	suppliers []string // something is ordered from
}

// judged is a part that is condemned: what was seen, or what was read of it.
type judged struct{ part, seen, read string }

// The four stories are those of the trade: common practice, told in our words.
var stories = map[string]story{
	"a gearbox that refuses first and second standing": {
		route: "gearbox-longitudinal", complaint: "complaint-gearbox=refuses", look: (*Person).triesEveryGear,
		cause: "Synchronisers worn", root: "synchro-worn",
		verdicts: []judged{{part: "Second synchroniser ring", read: "0.42 0.40 0.41"},
			{part: "First and second hub", seen: "sleeve rounded"}},
		suppliers: []string{"Ferry stores", "Mainland gears"},
	},
	"a differential with one wheel spinning": {
		route: "axle-limited-slip", complaint: "complaint-axle=no-drive", tests: []string{"one-wheel=acts-open"},
		cause: "Limited slip: plates or their splines worn", root: "plates-worn",
		verdicts:  []judged{{part: "Left plates", read: "1.71 1.73"}, {part: "Right plates", seen: "splines worn"}},
		suppliers: []string{"Mainland gears"},
	},
	"a truck that drives only with the lock in": {
		route: "axle-power-divider", complaint: "complaint-axle=no-drive", look: (*Person).driveItOutAndIn,
		tests: []string{"lock-in-drive=only-in", "shafts-drawn=whole"},
		cause: "Differential side gears or pin broken", root: "inter-axle-broken",
		verdicts: []judged{{part: "Rear side gear", seen: "three teeth gone"}}, suppliers: []string{"Ferry stores"},
	},
	"a tractor whose pack slips with the engine off": {
		route: "transfer-case-wet-pack", complaint: "complaint-transfer=no-four",
		tests: []string{"engine-off-lock=propshaft-spins"},
		cause: "Spring-applied pack slips", root: "wet-pack-slips",
		verdicts:  []judged{{part: "Plate pack", seen: "burnt"}, {part: "Disc springs", seen: "flat"}},
		suppliers: []string{"Mainland gears"},
	},
}

// Each goes through the screens that decide it: the complaint, the line or the
// matrix, the tests, the way with the customer's yes, the verdicts with what was
// read, the root cause as a chain, the parts ordered from each supplier.
func TestFromComplaintToOrderedParts(t *testing.T) {
	t.Parallel()
	p := demo(t)
	for name, s := range stories {
		t.Run(name, func(t *testing.T) {
			odo := signIn(t, p.Base, "odo")
			rebuild := odo.newRebuildOf(s.route)
			at := func(step string) { odo.Go(rebuild + "/" + step) }
			if s.look != nil {
				s.look(odo, rebuild)
			}
			odo.rest(rebuild, "complaint")
			at("complaint")
			odo.answer(s.complaint)
			if len(s.tests) > 0 {
				odo.readFirst(rebuild, "tests", s.tests...)
				at("tests")
				odo.unfoldAny("more")
				odo.answer(s.tests...)
			}
			at("tests")
			odo.See(s.cause)
			odo.axe(t, "tests")
			odo.rest(rebuild, "way")
			at("way")
			odo.decide("rebuild", "")
			odo.See("kept in 8 of 10 cases")
			odo.Type("Approved by", "Nora Quill")
			odo.Recording("the yes", func() { odo.Press("Record approval") })
			odo.rest(rebuild, "parts")
			at("parts")
			for _, v := range s.verdicts {
				odo.condemn(t, v)
			}
			odo.rest(rebuild, "cause")
			at("cause")
			for _, v := range s.verdicts {
				odo.Press(v.part)
			}
			odo.decide(s.root, "as it lay on the bench")
			odo.rest(rebuild, "parts-here")
			at("parts-here")
			for _, v := range s.verdicts {
				odo.See(v.part)
			}
			for _, from := range s.suppliers {
				odo.Do("ordered", from)
			}
			odo.axe(t, "parts ordered")
			odo.Go("/")
			odo.See("waits for")
		})
	}
}

// triesEveryGear takes the matrix by its keys: first and second refuse standing,
// and go in once third has stopped the shafts.
func (p *Person) triesEveryGear(rebuild string) {
	p.rest(rebuild, "shift-before")
	p.Go(rebuild + "/shift-before")
	for _, said := range []struct {
		cell string
		keys string
	}{{"gear-1-engine-off", "iii"}, {"gear-1-standing", "xxii"}, {"gear-1-held", "i"}} {
		p.touchCell(said.cell)
		for _, key := range said.keys {
			p.Recording(said.cell, func() { p.press(input.Key(key)) })
		}
	}
	p.See("Worn synchronisers")
}

// driveItOutAndIn answers what the line is asked with the lock out and in.
func (p *Person) driveItOutAndIn(rebuild string) {
	p.rest(rebuild, "branch")
	p.readFirst(rebuild, "branch")
	p.Go(rebuild + "/branch")
	p.said("Lock out: the vehicle", "Does not move")
	p.said("Lock out: the shaft between the axles", "Spins")
	p.said("Lock in: the vehicle", "Moves")
	p.See("possible faults explain everything so far")
}

// said answers what a step asks beside its readings.
func (p *Person) said(question, answer string) {
	p.Recording(question, func() {
		p.click(question+": "+answer, `(question, answer) => [...document.querySelectorAll('[role=radiogroup]')]
			.find(g => g.getAttribute('aria-label') === question && !g.closest('fieldset:disabled'))
			?.querySelectorAll('[role=radio]').values().find(r => r.innerText.startsWith(answer)) ?? null`, question,
			answer)
	})
}

// condemn takes a part in hand and has it replaced.
func (p *Person) condemn(t *testing.T, v judged) {
	p.click(
		"the part "+v.part,
		`part => [...document.querySelectorAll('main [role=button][aria-label], main button[aria-label]')]
		.find(b => b.getAttribute('aria-label').includes(part)) ?? null`,
		v.part,
	)
	p.wait("it in hand", `part => document.querySelector('main [data-part] h3')?.textContent.includes(part)`, v.part)
	if v.read != "" {
		p.Type("Readings, one or more", v.read)
		p.wait("what is left of it", `() => document.querySelector('main [data-part] [role=status] svg') !== null`)
		p.axe(t, "a part being measured")
	}
	if v.seen != "" {
		p.Type("What do you see?", v.seen)
	}
	p.Do("verdict", "replace")
}
