package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The first half of the work, on one demo: each part of it at a rebuild of its own.
func TestTheFirstHalfOfTheWork(t *testing.T) {
	t.Parallel()
	p := demo(t)
	for name, part := range map[string]func(*testing.T, *Program){
		"an answer's effect shows before it is given": anAnswersEffectShows,
		"the line is touched":                         theLineIsTouched,
		"a part is put where it lay":                  aPartIsPutWhereItLay,
		"two at one stack":                            twoAtOneStack,
		"parts are ordered and held against the old":  partsAreOrdered,
		"a lead sees the costs, and nobody else":      aLeadSeesTheCosts,
		"a find stands on the record":                 aFindStandsOnTheRecord,
		"a day is promised":                           theWaysAreSaidAndADayPromised,
		"a change of plan asks again":                 aChangeOfPlanAsksAgain,
	} {
		t.Run(name, func(t *testing.T) { part(t, p) })
	}
}

// line opens a line of the parts list.
func (p *Person) line(name string) {
	p.click("the line "+name, `name => [...document.querySelectorAll('tr[data-line] button[aria-expanded=false]')]
		.find(b => b.textContent === name) ?? null`, name)
	p.wait("its bench", `() => !!document.querySelector('main tr [data-part]')`)
}

// A wrong part goes back with its difference in words; the rest is ordered by
// one key, a line is typed, a file brings two more, and the board says what is
// waited for.
func partsAreOrdered(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	path := odo.rebuildPath("Ferry-terminal tug 1, Brakka G5")
	odo.Go(path + "/parts-here")
	odo.See("All parts here on")
	odo.line("Second synchroniser ring")
	odo.Type("tooth count, old", "42")
	odo.Type("tooth count, new", "40")
	odo.Type("What is wrong with it?", "two teeth short")
	odo.axe(t, "a line being compared")
	odo.Do("came", "back")
	odo.See("tooth count: 40 instead of 42")
	odo.See("two teeth short")
	odo.Do("ordered", "Mainland gears")
	odo.Do("ordered", "Bolt shop")
	odo.SeeNot("tooth count: 40 instead of 42")

	odo.Type("Add a line", "send out: Case to be bored, Machine works, 60, 2 days")
	odo.See("sent out, 1 piece, from Machine works, for 60, in 2 days")
	odo.Recording("the line", odo.Enter)
	odo.See("to send")
	file := filepath.Join(t.TempDir(), "more.csv")
	require.NoError(
		t,
		os.WriteFile(file, []byte("name,line,pieces,supplier,price,lead_days\nRod end,,2,Bolt shop,4.5,-1\n"), 0o600),
	)
	before := odo.recorded()
	odo.MustElement("input[type=file]").MustSetFiles(file)
	odo.See("line 2, column lead_days")
	assert.Equal(t, before, odo.recorded(), "nothing of a garbled file is kept")
	require.NoError(
		t,
		os.WriteFile(
			file,
			[]byte("name,line,pieces,supplier,price,lead_days\nRod end,,2,Bolt shop,4.5,1\nCotter,,2,Bolt shop,1,1\n"),
			0o600,
		),
	)
	odo.Recording("the file", func() { odo.MustElement("input[type=file]").MustSetFiles(file) })
	odo.See("Cotter")
	odo.Do("ordered", "Bolt shop")
	odo.line("Case to be bored")
	odo.Type("What was measured", "bore")
	odo.Type("Measured before it goes", "62.03 mm")
	odo.Type("Agreed", "62.00 mm")
	odo.Recording("what goes out", func() { odo.Press("Sent out") })
	odo.line("Case to be bored")
	odo.wait(
		"what was agreed",
		`() => [...document.querySelectorAll('main [data-part] input')].some(i => i.value === '62.00 mm')`,
	)
	odo.See("waits for 7 parts, last due")
	odo.Go("/")
	odo.See("waits for 7 parts, last due")
}

// What an answer would do to the causes shows before it is given; a second
// complaint is a report of its own, and the minutes a test took stand beside it.
func anAnswersEffectShows(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	path := odo.rebuildPath("Slipway tractor, Skerry C228")
	odo.Go(path + "/complaint")
	odo.See("Customer says: Grinds into reverse")
	odo.Go(path + "/tests")
	before := odo.recorded()
	odo.find("the answers", `() => document.querySelector('main [data-current] [role=radio]')`).
		MustEval(`() => this.focus()`)
	odo.See("This answer comes up in about ")
	assert.Equal(t, before, odo.recorded(), "nothing is given yet")
	odo.Type("Minutes taken", "7")
	odo.Recording("the first answer", func() {
		odo.click("the first answer", `() => document.querySelector('main [data-current] [role=radio]')`)
	})
	odo.See("7 min, Odo Marrin")
	odo.Go(path + "/complaint")
	odo.Recording("the second complaint", func() {
		odo.click(
			"a second complaint",
			`() => [...document.querySelectorAll('fieldset[name$="-besides"] [role=radio]')].find(r => r.value === 'slips')`,
		)
	})
	odo.See("2 entries recorded at this step")
}

// A lead sees what a rebuild has cost so far; whoever was at a step says how
// long it really took.
func aLeadSeesTheCosts(t *testing.T, p *Program) {
	lead := signIn(t, p.Base, "ilva")
	path := lead.rebuildPath("Ferry-terminal tug 1, Brakka G5")
	lead.Go(path + "/strip")
	lead.Press("My time here")
	lead.Type("Minutes I spent on this step", "240")
	lead.Recording("the time", lead.Enter)
	lead.See("My time here: 240 min")
	lead.Press("Costs")
	lead.See("Ilva Torn 4 h 00, typed in")
	lead.See("approved up to 1400")
	lead.axe(t, "costs")
	odo := signIn(t, p.Base, "odo")
	odo.Go(path + "/strip")
	odo.SeeNot("Costs")
}
