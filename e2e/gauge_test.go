package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// follows opens the gauge's line at the screen and waits until it reads.
func (p *Person) follows(gauge string) {
	p.Press("Follow the gauge")
	p.wait("a gauge reads", reads)
	if p.MustEval(`() => !!document.querySelector('[aria-label="Gauge to follow"]')`).Bool() {
		p.MustEval(`name => {
			const s = document.querySelector('[aria-label="Gauge to follow"]');
			const o = [...s.options].find(o => o.text.startsWith(name));
			Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, o.value);
			s.dispatchEvent(new Event('change', {bubbles: true}));
		}`, gauge)
	}
	p.wait(gauge+" reads", reads)
}

const reads = `() => /\d/.test(document.querySelector('[aria-label="Reads now"]')?.innerText ?? '')
	&& document.querySelector('section[aria-label=Gauge]').innerText.includes('alive')`

// A gauge that acts as a keyboard types a number and Enter; one that speaks is taken
// by its key where the hand writes; a whole turn of the crank is read at once.
func TestALooseBenchIsReadWithGauges(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "guest")
	p.Go("/bench/runout")
	p.typesAt("12 o'clock", "0.250 mm")
	p.press(input.Enter)
	p.hand("0.150 mm")
	p.press(input.Enter)
	p.wait("the number stands, the hand is at the next place", `() => {
		const at = place => document.querySelector('main input[aria-label="' + place + '"]');
		return at("3 o'clock").value === '0.150 mm' && document.activeElement === at("6 o'clock");
	}`)

	p.follows("Dial")
	p.MustEval(`() => document.querySelector('main input[aria-label="9 o\'clock"]').focus()`)
	p.Page.KeyActions().Press(input.AltLeft).Type('l').MustDo()
	p.wait("it is taken",
		`() => /^[-0-9.]+ mm$/.test(document.querySelector('main input[aria-label="9 o\'clock"]').value)`)
	p.click(
		"a whole turn",
		`() => [...document.querySelectorAll('button')].find(b => b.innerText.includes('Use this turn'))`,
	)
	p.wait(
		"all of it is read",
		`() => document.querySelectorAll('form[aria-label=Input] input:not([type=submit])').length >= 50`,
	)
	p.wait("and means something", `() => `+meaning+`.innerText.length > 20`)
	assert.False(t, p.MustHas(`[role=alert]`))
}

// At a step what the gauge reads goes on record, when it comes to rest or by a pedal;
// a dropped line is said, and what was taken stands.
func TestAStepIsReadWithGauges(t *testing.T) {
	t.Parallel()
	p := signIn(t, demo(t).Base, "odo")
	p.Go(p.rebuildPath("Post van 3") + "/end-float")
	p.wait("the step", `() => !!document.querySelector('[aria-label="Next reading"]')`)
	before := p.recorded()
	p.follows("Dial")
	p.MustEval(`() => document.querySelector('section[aria-label=Gauge] input[type=checkbox]').click()`)
	for until := time.Now().Add(time.Minute); p.recorded() == before && time.Now().Before(until); {
		time.Sleep(100 * time.Millisecond)
	}
	assert.Greater(t, p.recorded(), before, "at rest it is on record")
	p.MustEval(`() => document.querySelector('section[aria-label=Gauge] input[type=checkbox]').click()`)
	p.Press("Use a pedal")
	p.press(input.PageDown)
	p.See("Pedal: PageDown")
	// A reading a hundred times smaller than those before would be asked about.
	p.wait(
		"a reading that is no slip",
		`() => Math.abs(parseFloat(document.querySelector('[aria-label="Reads now"]').innerText)) > 0.05`,
	)
	p.Recording("a reading by the pedal", func() { p.press(input.PageDown) })
	assert.True(
		t,
		strings.Contains(p.MustEval(`() => document.querySelector('[aria-label=Readings]').innerText`).Str(), "mm"),
	)
}
