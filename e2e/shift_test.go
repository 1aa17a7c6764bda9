package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// A gearbox that refuses first and second standing: every gear is tried by one
// key each, the pattern names itself, and the diagnosis has it from there.
func TestAGearboxIsTriedGearByGear(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Heritage fire pump, Brakka G5 gearbox") + "/shift-before")
	odo.See("Worn synchronisers")
	odo.axe(t, "every gear tried")

	fresh := odo.newRebuildOf("gearbox-oil-service")
	odo.Go(fresh + "/shift-before")
	odo.See("Answer what you tried; leave the rest.")
	odo.handThere()
	for range 5 { // four gears and reverse
		odo.Recording("a gear goes in", func() { odo.press('i') })
	}
	for range 2 {
		odo.Recording("a gear refuses", func() { odo.press('x') })
	}
	odo.press('i', 'i', 'i') // a hand that does not wait for the server
	odo.wait(
		"all three on record",
		`() => document.querySelectorAll('[data-cell][aria-label$=": goes in"]').length === 8`,
	)
	odo.touchCell("gear-1-held")
	for range 2 {
		odo.Recording("in after third", func() { odo.press('i') })
	}
	odo.See("Worn synchronisers")
	odo.press(input.ArrowLeft)
	odo.wait("the arrow goes to the gear beside", `() => document.activeElement?.dataset.cell?.startsWith('gear-')`)
	assert.Contains(t, odo.fetch("/api/v1"+fresh+"/steps/tests"), `"synchro-worn"`)
}

// touchCell puts the hand at a cell of the matrix.
func (p *Person) touchCell(id string) {
	p.click("the cell "+id, `id => document.querySelector('[data-cell="' + id + '"]')`, id)
}

// What is found along the way is said at any step and stands on the record.
func aFindStandsOnTheRecord(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	fresh := odo.newRebuildOf("gearbox-oil-service")
	odo.Go(fresh + "/identify")
	odo.Press("Found something else")
	odo.Type("What else did you find?", "Brake hose chafed through")
	odo.Press("Not safe to drive")
	odo.Press("Customer advised")
	odo.axe(t, "a find being said")
	odo.Recording("the find", func() { odo.Press("Record it") })
	odo.Go("/records/" + strings.TrimPrefix(fresh, "/rebuilds/"))
	odo.See("Brake hose chafed through: not safe to drive, customer advised")

	odo.Go(fresh + "/arrival-photo")
	odo.Press("Found something else")
	odo.See("Found before and still open")
	odo.Recording("what became of it", func() { odo.Press("Done now") })
	odo.SeeNot("Found before and still open")
}

// The customer's yes stands beside what was decided; a change of plan asks again.
func aChangeOfPlanAsksAgain(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Heritage fire pump, Brakka G5 gearbox") + "/way")
	odo.See("nine in ten less than")
	odo.Type("Approved by", "Nora Quill")
	odo.Recording("the yes", func() { odo.Press("Record approval") })
	odo.See("Nora Quill approved up to")
	odo.Choose("exchange")
	odo.Recording("the change of plan", func() { odo.Press("Change decision") })
	odo.See("The plan has changed since. Ask again")
	odo.axe(t, "a stale yes")
	odo.Type("Up to", "2900")
	odo.Recording("the new yes", func() { odo.Press("Record new approval") })
	odo.SeeNot("The plan has changed since")
	odo.See("up to 2900")
}

// Ranges that are known better are weighed for this unit, a way of one's own is
// taken, and the day that keeps is promised by one key.
func theWaysAreSaidAndADayPromised(t *testing.T, p *Program) {
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Slipway tractor, Skerry C228 clutch") + "/way")
	odo.click("the way", `() => document.querySelector('svg [role=button][aria-label^="Clutch kit fitted here"]')`)
	odo.Type("Parts, at least", "700")
	odo.See("is not possible") // 700 at least, likely 310
	odo.Type("Parts, at least", "250")
	odo.Type("Another option", "Parts from the scrapped one")
	odo.Press("Add this option")
	odo.See("Nothing is recorded yet")
	odo.axe(t, "a what-if")
	odo.Recording("the ways", func() { odo.Press("Use these figures here") })
	odo.SeeNot("Nothing is recorded yet")
	odo.Choose("own")
	odo.Recording("the way of one's own", func() { odo.Press("Decide") })
	odo.See("Parts from the scrapped one: ")
	odo.See("kept in 8 of 10 cases")
	odo.Press("Promise another day")
	odo.axe(t, "another day being promised")
	later := time.Now().AddDate(0, 0, 40)
	odo.typeDay("Promised for", later)
	odo.Type("Reason", "the customer is at sea")
	odo.Recording("another day", func() { odo.Press("Promise this day") })
	odo.See("promised " + later.Format("Mon 2006-01-02"))
	odo.wait("the day that keeps", `() => !!document.querySelector('button[name=promised]:enabled')`)
	odo.Recording("the day that keeps", func() { odo.press('y') })
	odo.SeeNot("promised " + later.Format("Mon 2006-01-02"))
}
