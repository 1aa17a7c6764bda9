package e2e

import (
	"fmt"
	"strings"
)

// What a person does at the steps of a rebuild.

// answer gives lines of a check or test their outcomes, each as line=outcome.
func (p *Person) answer(said ...string) {
	for _, s := range said {
		line, outcome, _ := strings.Cut(s, "=")
		p.Recording(s, func() {
			p.click(
				"the answer "+s,
				`(line, outcome) => document.querySelector('fieldset[name="' + line + '"]:enabled [role=radio][value="' + outcome + '"]:not([aria-disabled=true])')`,
				line,
				outcome,
			)
		})
		p.wait(
			"the answer "+s,
			`(line, outcome) => !!document.querySelector('fieldset[name="' + line + '"] [value="' + outcome + '"][aria-checked=true]')`,
			line,
			outcome,
		)
	}
}

// value types the value of a line and takes it.
func (p *Person) value(line, text string) {
	field := p.find(
		"the field of "+line,
		`line => document.querySelector('fieldset[name="' + line + '"]:enabled input')`,
		line,
	)
	p.write(field, text)
	p.Recording(text, p.Enter)
}

// unfold opens what is folded away.
func (p *Person) unfold(name string) {
	p.click(name, `name => document.querySelector('button[name="' + name + '"][aria-expanded=false]')`, name)
}

// at waits until a step is on the screen.
func (p *Person) at(step string) {
	p.wait(
		"the step "+step,
		`step => location.pathname.endsWith('/' + step) && document.querySelector('main')?.dataset.step === step`,
		step,
	)
}

// handThere waits until a key would land at what a step asks for.
func (p *Person) handThere() {
	p.wait("the hand", `() => !!document.querySelector("main fieldset") && document.activeElement !== document.body`)
}

// goOn waits until the step is done and follows to the next.
func (p *Person) goOn(step string) {
	p.click("the way on to "+step, button, "next", step)
	p.at(step)
}

// unfoldAny opens what is folded away below the lines of a step, if anything is.
func (p *Person) unfoldAny(name string) {
	p.wait("the lines", `() => !!document.querySelector('main fieldset[name]')`)
	if p.MustEval(`name => !!document.querySelector('button[name="' + name + '"][aria-expanded=false]')`, name).Bool() {
		p.unfold(name)
	}
}

func (p *Person) decide(choice, reason string) {
	p.Choose(choice)
	if reason != "" {
		p.Type("Reason", reason)
	}
	p.Do("decision", "")
}

// proves signs in again where the program asks who signs.
func (p *Person) proves(login string) {
	p.wait(
		"the signature, or who signs",
		`async () => {
			if (document.querySelector('[role=dialog] input[name=login]')) return true;
			const [, , rebuild, step] = location.pathname.split('/'); // on record: what waits to be sent stands there too
			const answer = await fetch('/api/v1/rebuilds/' + rebuild + '/steps/' + step);
			return answer.ok && (await answer.json()).status === 'done';
		}`,
	)
	if p.MustHas("[role=dialog] input[name=login]") {
		p.SignIn(login)
	}
	p.See("Decided by")
}

// part waits until the hand is at a part of a stack.
func (p *Person) part(id string) {
	p.wait("the part "+id, `id => document.querySelector('main [data-part]')?.dataset.part === id`, id)
}

// torque goes round a group of bolts, a setting for each pass, and holds them.
func (p *Person) torque(bolts int, settings ...string) {
	for range settings {
		for range bolts {
			at := p.find("a bolt", `() => document.querySelector('main [data-bolt]')`).
				MustEval(`() => this.dataset.bolt`).
				String()
			pass := 0
			if _, err := fmt.Sscanf(at, "p%d.", &pass); err != nil {
				p.fail(at, err)
			}
			p.Type("Wrench reading", settings[pass-1])
			p.Recording(at, p.Enter)
			p.wait("what comes after "+at, `at => document.querySelector('main [data-bolt]')?.dataset.bolt !== at`, at)
		}
	}
	p.Do("outcome", "held")
}

// bolt waits until the hand is at a bolt.
func (p *Person) bolt(pass, bolt int) {
	p.wait(
		fmt.Sprintf("bolt %d in pass %d", bolt, pass),
		`at => document.querySelector('main [data-bolt]')?.dataset.bolt === at`,
		fmt.Sprintf("p%d.b%d", pass, bolt),
	)
}

// read types a reading and takes it.
func (p *Person) read(text string) {
	p.Type("Next reading", text)
	p.Enter()
	if !strings.Contains(text, "z") {
		p.wait("an empty field", `() => document.querySelector('[aria-label="Next reading"]')?.value === ''`)
	}
}
