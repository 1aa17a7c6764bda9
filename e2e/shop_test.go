package e2e

import (
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
)

// A lead looks after the shop's things: what it says of itself, its gauges, its
// drawers, the routes it goes, what its sheets say.
func TestALeadLooksAfterTheShop(t *testing.T) {
	t.Parallel()
	p := demo(t)
	lead := signIn(t, p.Base, "ilva")

	lead.Go("/shop")
	lead.Type("Footer of the printed record", "Quay 4, open from seven")
	lead.Press("Save")
	lead.See("Saved.")

	lead.Go("/gauges")
	lead.Role("heading", "Add a gauge")
	lead.Type("Name, as it appears in the record", "Dial indicator no. 9")
	lead.Type("Smallest division", "0.01 mm")
	lead.Press("Save")
	lead.See("Dial indicator no. 9")

	lead.Go("/drawers")
	lead.Role("heading", "Count a drawer")
	lead.within().MustElement("#column").MustInput("0.54 mm 3\n0.58 mm 2")
	lead.See("2 of 2 lines with a size and a number")
	lead.Type("Drawer", "Pinion shims")
	lead.Type("Why: counted, delivered", "counted on Friday")
	lead.Press("Save count")
	lead.See("0.58 mm")
	lead.axe(t, "the shop's things")
}

// A route is gone the shop's own way from the next rebuild on.
func TestALeadChangesARoute(t *testing.T) {
	t.Parallel()
	p := demo(t)
	lead := signIn(t, p.Base, "ilva")
	lead.Go("/routes/transfer-case-dog")
	lead.See("standard")
	lead.pressFor("Change Cover sealant")
	lead.Type("Title here", "Seal the cover")
	lead.Type("Planned time", "25")
	lead.See("Planned time so far:")
	lead.pressFor("Close Seal the cover")
	lead.pressFor("Change Inspect every part")
	lead.Press("Leave out")
	lead.axe(t, "a route being changed")
	lead.Type("Why", "as we do it")
	lead.Press("Save as version 1")
	lead.See("your version 1")
	lead.See("called \"Seal the cover\"")
	lead.See("Inspect every part: left out")
	odo := signIn(t, p.Base, "odo")
	odo.Go("/routes/transfer-case-dog")
	odo.See("Seal the cover")
	odo.SeeNot("Save as version")
}

// What drives what is corrected where it is drawn, a stack as it is typed.
func TestASheetIsCorrectedInItsDrawing(t *testing.T) {
	t.Parallel()
	p := demo(t)
	lead := signIn(t, p.Base, "ilva")
	lead.Go("/sheets/norrel-td")
	lead.pressFor("Correct What drives what")
	lead.touch("propshaft")
	lead.Type("Name", "Shaft between the axles")
	lead.touch("front-ring")
	lead.Type("Ratio (input turns for one output turn)", "5.4")
	lead.axe(t, "a driveline being corrected")
	lead.Type("Source: manual and page, plate, or unit measured", "teeth counted")
	lead.Press("Save as version 4")
	lead.See("teeth counted")
	said := lead.fetch("/api/v1/sheets/norrel-td")
	assert.Contains(t, said, "Shaft between the axles")
	assert.Contains(t, said, `"ratio":5.4`)

	lead.Go("/sheets/brakka-a9")
	lead.within().
		MustElement(`select[aria-label="Parts, as they come off: add a line"]`).
		MustSelect("Parts of the unit")
	lead.See("Next part to come off")
	lead.Type("Next part to come off: name, mark, which way it faces",
		"Slinger, cupped side out, faces front")
	lead.Enter()
	lead.Type("Source: manual and page, plate, or unit measured", "one more was in it")
	lead.Press("Save as version")
	lead.See("one more was in it")
	assert.Contains(t, lead.fetch("/api/v1/sheets/brakka-a9"),
		`"name":"Slinger","faces":"cupped side out","facing":"front"`)
}

// A tablet at the bench belongs to nobody: who stands there is a name and a PIN.
func TestATabletAsksWhoIsThere(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go("/account")
	odo.Type("PIN, four to eight digits (leave empty to remove it)", "5074")
	odo.Type("Your password", Password)
	odo.Press("Save PIN")
	odo.See("Done.")

	bench := signIn(t, p.Base, "ilva")
	bench.Go("/account")
	bench.Type("Name for this bench tablet", "By the press")
	bench.Press("Make bench tablet")
	bench.Role("heading", "Who is at the bench?")
	bench.axe(t, "who is at the bench")
	bench.Press("Odo Marrin")
	for _, figure := range "5073" {
		bench.press(input.Key(figure))
	}
	bench.Enter()
	bench.wait("the wrong PIN is told", `() => document.querySelector('[role=alert]') !== null`)
	for _, figure := range "5074" {
		bench.press(input.Key(figure))
	}
	bench.Enter()
	bench.Role("button", "In the shop")
	bench.See("Odo Marrin")
	bench.Press("Sign out")
	bench.Role("heading", "Who is at the bench?")
}

// touch touches a member or a shaft in the drawing.
func (p *Person) touch(place string) {
	p.find("in the drawing: "+place, `place => document.querySelector('svg [data-place="' + place + '"]')`, place)
	p.MustEval(
		`place => document.querySelector('svg [data-place="' + place + '"]').dispatchEvent(new MouseEvent('click', { bubbles: true }))`,
		place,
	)
}

// pressFor is Press for a button that says to a screen reader what it is for.
func (p *Person) pressFor(words string) {
	p.click(
		words,
		`words => [...document.querySelectorAll('button')].find(b => b.textContent.trim() === words && !b.matches(':disabled, [aria-disabled=true]')) ?? null`,
		words,
	)
}
