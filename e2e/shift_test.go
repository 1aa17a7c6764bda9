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
	odo := browser.SignIn(p.Base, "odo")
	odo.Go(odo.rebuildPath("Heritage fire pump, Brakka G5 gearbox") + "/shift-before")
	odo.See("Worn synchronisers")
	odo.axe(t, "every gear tried")

	fresh := odo.newRebuildOf("gearbox-oil-service")
	odo.Go(fresh + "/shift-before")
	odo.See("Say what was tried; the rest may stay open.")
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

// newRebuildOf opens a rebuild of the demo's unit that goes by a route.
func (p *Person) newRebuildOf(route string) string {
	id := p.MustEval(`async route => {
		const session = await (await fetch('/api/v1/session')).json();
		const fleet = await (await fetch('/api/v1/fleet')).json();
		const [vehicle, unit] = fleet.vehicles.flatMap(v => (v.units ?? []).filter(u => u.route === route).map(u => [v, u]))[0];
		const day = new Date(Date.now() + 7 * 864e5).toISOString().slice(0, 10);
		const r = await fetch('/api/v1/rebuilds', { method: 'POST',
			headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': session.csrf, 'Idempotency-Key': crypto.randomUUID() },
			body: JSON.stringify({ vehicle: vehicle.id, unit: unit.id, complaint: 'Refuses first and second standing.', promised: day }) });
		return (await r.json()).id;
	}`, route).String()
	return "/rebuilds/" + id
}

// What is found along the way is said at any step and stands on the record.
func aFindStandsOnTheRecord(t *testing.T, p *Program) {
	odo := browser.SignIn(p.Base, "odo")
	fresh := odo.newRebuildOf("gearbox-oil-service")
	odo.Go(fresh + "/identify")
	odo.Press("Found along the way")
	odo.Type("Found along the way", "Brake hose chafed through")
	odo.Press("Not safe to drive")
	odo.Press("Customer advised")
	odo.axe(t, "a find being said")
	odo.Recording("the find", func() { odo.Press("Put it on record") })
	odo.Go("/records/" + strings.TrimPrefix(fresh, "/rebuilds/"))
	odo.See("Brake hose chafed through: not safe to drive, customer advised")

	odo.Go(fresh + "/arrival-photo")
	odo.Press("Found along the way")
	odo.See("Found before and still open")
	odo.Recording("what became of it", func() { odo.Press("Done now") })
	odo.SeeNot("Found before and still open")
}

// The customer's yes stands beside what was decided; a change of plan asks again.
func aChangeOfPlanAsksAgain(t *testing.T, p *Program) {
	odo := browser.SignIn(p.Base, "odo")
	odo.Go(odo.rebuildPath("Heritage fire pump, Brakka G5 gearbox") + "/way")
	odo.See("nine in ten below")
	odo.Type("Who said yes", "Nora Quill")
	odo.Recording("the yes", func() { odo.Press("Write down the yes") })
	odo.See("Nora Quill said yes, up to")
	odo.Choose("exchange")
	odo.Recording("the change of plan", func() { odo.Press("Decide anew") })
	odo.See("The plan has changed since: ask again")
	odo.axe(t, "a stale yes")
	odo.Type("Up to", "2900")
	odo.Recording("the new yes", func() { odo.Press("Write down the new yes") })
	odo.SeeNot("The plan has changed since")
	odo.See("up to 2900")
}

// Ranges that are known better are weighed for this unit, a way of one's own is
// taken, and the day that keeps is promised by one key.
func theWaysAreSaidAndADayPromised(t *testing.T, p *Program) {
	odo := browser.SignIn(p.Base, "odo")
	odo.Go(odo.rebuildPath("Slipway tractor, Skerry C228 clutch") + "/way")
	odo.click("the way", `() => document.querySelector('svg [role=button][aria-label^="Clutch kit fitted here"]')`)
	odo.Type("Parts, at least", "700")
	odo.See("cannot be") // 700 at least, likely 310
	odo.Type("Parts, at least", "250")
	odo.Type("Another way", "Parts from the scrapped one")
	odo.Press("Weigh it too")
	odo.See("Nothing of it is on record")
	odo.axe(t, "a what-if")
	odo.Recording("the ways", func() { odo.Press("Weigh them so for this unit") })
	odo.SeeNot("Nothing of it is on record")
	odo.Choose("own")
	odo.Recording("the way of one's own", func() { odo.Press("Decide") })
	odo.See("Parts from the scrapped one: ")
	odo.See("keeps in eight of ten cases")
	odo.Press("Promise another day")
	odo.axe(t, "another day being promised")
	later := time.Now().AddDate(0, 0, 40)
	odo.typeDay("Promised for", later)
	odo.Type("Because", "the customer is at sea")
	odo.Recording("another day", func() { odo.Press("Promise it") })
	odo.See("promised " + later.Format("Mon 2006-01-02"))
	odo.wait("the day that keeps", `() => !!document.querySelector('button[name=promised]:enabled')`)
	odo.Recording("the day that keeps", func() { odo.press('y') })
	odo.SeeNot("promised " + later.Format("Mon 2006-01-02"))
}
