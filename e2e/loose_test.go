package e2e

import (
	"encoding/json"
	"io"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const meaning = `document.querySelector('aside[aria-label="What it means"]')`

// Every calculator stands loose for whoever is signed in: its worked example is
// worked out at once, and nothing is wrong with it.
func TestEveryBenchStandsLoose(t *testing.T) {
	t.Parallel()
	guest := signIn(t, demo(t).Base, "guest")
	var catalogue struct{ Calculators []struct{ Name string } }
	require.NoError(t, json.Unmarshal([]byte(guest.fetch("/api/v1/calc")), &catalogue))
	require.Greater(t, len(catalogue.Calculators), 30)
	for _, c := range catalogue.Calculators {
		guest.bench(c.Name)
		assert.False(t, guest.MustHas(`[role=alert]`), c.Name)
		guest.axe(t, "the loose bench of "+c.Name)
	}
}

// What is typed at a loose bench stands in the address, and is read in Go: what
// could mean two things is refused at its field.
func TestALooseBenchIsSentByItsAddress(t *testing.T) {
	t.Parallel()
	p := demo(t)
	guest := signIn(t, p.Base, "guest")
	guest.Go("/bench/end-float")
	guest.typesAt("to; minus is preload", "0,9 mm")
	guest.wait("it is within", `() => `+meaning+`.querySelector('svg') && /\bIn\b/.test(`+meaning+`.innerText)`)
	guest.wait("the address has it", `() => new URLSearchParams(location.search).get('in')?.includes('0,9 mm')`)
	other := guest.tab(t, guest.MustEval(`() => location.href`).Str())
	other.wait(
		"another hand sees the same",
		`() => [...document.querySelectorAll('input')].some(i => i.value === '0,9 mm')`,
	)
	guest.typesAt("to; minus is preload", "1,250 mm")
	guest.wait(
		"it is refused at its field",
		`() => document.querySelector('input[aria-invalid=true]')?.value === '1,250 mm'`,
	)

	guest.Go("/bench/shift-matrix")
	guest.touchCell("1 engine_off cold")
	guest.press('x')
	guest.wait("a key says how a gear feels", `() => document.querySelector('[data-cell="1 engine_off cold"]')
		.getAttribute('aria-label').endsWith('refuses')`)
}

// What one wants to know is typed, and leads to its bench; a key leads there from every page.
func TestACalculatorIsFoundByWhatOneWants(t *testing.T) {
	t.Parallel()
	guest := signIn(t, demo(t).Base, "guest")
	guest.Go("/")
	guest.See("Board")
	guest.press('q')
	guest.wait(
		"the hand is at the line",
		`() => document.activeElement?.getAttribute('aria-label') === 'What do you want to know?'
		&& document.querySelectorAll('main li').length > 30`,
	)
	guest.axe(t, "the calculators")
	guest.hand("which drill for M14")
	guest.wait("the drill comes first", `() => document.querySelector('main li').innerText.startsWith('Tap drill')`)
	guest.press(input.Enter)
	guest.means("Drill")
	guest.Go("/find")
	guest.Type("Rebuild number, customer, registration, serial number, family, or words from a complaint or cause",
		"80 lb-ft on a 10 inch crow's foot")
	guest.wait(
		"the line offers it",
		`() => [...document.querySelectorAll('[role=option]')].some(o => o.innerText.includes('Wrench adapter'))`,
	)
	guest.press(input.ArrowDown, input.Enter)
	guest.wait("the figures stand in place", `() => location.pathname === '/bench/wrench-adapter'
		&& [...document.querySelectorAll('main input')].some(i => i.value === '80 lb-ft')
		&& [...document.querySelectorAll('main input')].some(i => i.value === '10 in')`)
}

// bench opens a loose bench and waits until its example stands there with what it means.
func (p *Person) bench(name string) {
	p.Go("/bench/" + name)
	p.wait(
		name+" says what its example means",
		`() => document.querySelector('main input:not([type=submit]), main [role=slider]')
		&& document.querySelector('main svg, main table, main form') && `+meaning+`?.innerText.trim().length > 20`,
	)
}

// A bench is taken along: as text with its address, and on one page, whatever it shows.
func TestABenchIsTakenAlong(t *testing.T) {
	t.Parallel()
	guest := signIn(t, demo(t).Base, "guest")
	var catalogue struct{ Calculators []struct{ Name string } }
	require.NoError(t, json.Unmarshal([]byte(guest.fetch("/api/v1/calc")), &catalogue))
	for _, c := range catalogue.Calculators {
		guest.bench(c.Name)
		pdf, err := guest.PDF(
			&proto.PagePrintToPDF{PaperWidth: new(8.27), PaperHeight: new(11.69), PreferCSSPageSize: true},
		)
		require.NoError(t, err)
		raw, err := io.ReadAll(pdf)
		require.NoError(t, err)
		assert.Equal(t, 1, strings.Count(string(raw), "/Type /Page\n"), c.Name)
	}
	guest.Go("/bench/tap-drill")
	guest.Press("Copy as text")
	guest.wait("it says so", `() => `+meaning+`.innerText.includes('opied')`)
}

// What is wrong at a bench is named as one says it, where it is typed and beside the result,
// and nothing typed is lost.
func TestALooseBenchNamesWhatIsWrong(t *testing.T) {
	t.Parallel()
	guest := signIn(t, demo(t).Base, "guest")
	for _, c := range []struct{ bench, place, wrong, names string }{
		{"gear-choice", "ratio", "0", "finals 1"},
		{"clutch-heat", "gear × axle", "0", "ratio"},
		{"propshaft-travel", "axle goes up by", "900 mm", "bump"},
		{"clutch-cover", "off friction face", "30 mm", "cut"},
		{"wet-pack", "travel 2", "-1 mm", "travel 2"},
		{"end-float", "pack at far end", "-1 mm", "far side, trial pack"},
	} {
		guest.bench(c.bench)
		guest.typesAt(c.place, c.wrong)
		guest.wait(
			c.bench+" names it beside the result",
			`names => document.querySelector('aside [role=alert]')?.innerText
			.toLowerCase().includes(names)`,
			c.names,
		)
		assert.Equal(
			t,
			c.wrong,
			guest.MustEval(`place => document.querySelector('main input[aria-label="' + place + '"]').value`,
				c.place).Str(),
			"what was typed is still there",
		)
	}
}
