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
	lead := browser.SignIn(p.Base, "ilva")

	lead.Go("/shop")
	lead.Type("Words at the foot of the printed record", "Quay 4, open from seven")
	lead.Press("Keep")
	lead.See("Kept.")

	lead.Go("/gauges")
	lead.See("One more")
	lead.Type("Name, as it stands in the record", "Dial indicator no. 9")
	lead.Type("One division", "0.01 mm")
	lead.Press("Keep")
	lead.See("Dial indicator no. 9")

	lead.Go("/drawers")
	lead.See("Count a drawer")
	lead.within().MustElement("#column").MustInput("0.54 mm 3\n0.58 mm 2")
	lead.See("2 of 2 lines say a size and a number")
	lead.Type("Drawer", "Pinion shims")
	lead.Type("Why: counted, delivered", "counted on Friday")
	lead.Press("Keep the count")
	lead.See("0.58 mm")
	lead.axe(t, "the shop's things")
}

// A route is gone the shop's own way from the next rebuild on.
func TestALeadChangesARoute(t *testing.T) {
	t.Parallel()
	p := demo(t)
	lead := browser.SignIn(p.Base, "ilva")
	lead.Go("/routes/transfer-case-dog")
	lead.See("as the book has it")
	lead.pressFor("Change Cover sealant")
	lead.Type("What it is called here", "Seal the cover")
	lead.Type("It takes", "25")
	lead.See("The minutes said so far come to")
	lead.pressFor("Close Seal the cover")
	lead.pressFor("Change Parts")
	lead.Press("Leave it out")
	lead.axe(t, "a route being changed")
	lead.Type("Why", "as we do it")
	lead.Press("Keep as version 1")
	lead.See("your own way, version 1")
	lead.See("called \"Seal the cover\"")
	lead.See("Parts: left out")
	odo := browser.SignIn(p.Base, "odo")
	odo.Go("/routes/transfer-case-dog")
	odo.See("Seal the cover")
	odo.SeeNot("Keep as version")
}

// What drives what is corrected where it is drawn, a stack as it is typed.
func TestASheetIsCorrectedInItsDrawing(t *testing.T) {
	t.Parallel()
	p := demo(t)
	lead := browser.SignIn(p.Base, "ilva")
	lead.Go("/sheets/norrel-td")
	lead.pressFor("Correct What drives what")
	lead.touch("propshaft")
	lead.Type("Called", "Shaft between the axles")
	lead.touch("front-ring")
	lead.Type("Ratio, turns in for one out", "5.4")
	lead.axe(t, "a driveline being corrected")
	lead.Type("Why: book and page, plate, measured on", "teeth counted")
	lead.Press("Keep as version 4")
	lead.See("teeth counted")
	said := lead.fetch("/api/v1/sheets/norrel-td")
	assert.Contains(t, said, "Shaft between the axles")
	assert.Contains(t, said, `"ratio":5.4`)

	lead.Go("/sheets/brakka-a9")
	lead.within().
		MustElement(`select[aria-label="Parts, as they come off: one more line"]`).
		MustSelect("Parts of the unit")
	lead.See("One more, as it comes off")
	lead.Type("One more, as it comes off: name, how its mark looks, faces rear",
		"Slinger, cupped side out, faces front")
	lead.Enter()
	lead.Type("Why: book and page, plate, measured on", "one more was in it")
	lead.Press("Keep as version")
	lead.See("one more was in it")
	assert.Contains(t, lead.fetch("/api/v1/sheets/brakka-a9"),
		`"name":"Slinger","faces":"cupped side out","facing":"front"`)
}

// A tablet at the bench belongs to nobody: who stands there is a name and a PIN.
func TestATabletAsksWhoIsThere(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := browser.SignIn(p.Base, "odo")
	odo.Go("/account")
	odo.Type("PIN: four to eight figures; empty takes it away", "5074")
	odo.Type("Your password", Password)
	odo.Press("Keep the PIN")
	odo.See("Done.")

	bench := browser.SignIn(p.Base, "ilva")
	bench.Go("/account")
	bench.Type("This screen as a tablet of the bench, by what name", "By the press")
	bench.Press("Enrol this screen")
	bench.See("Who is at the bench?")
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
	bench.See("In the house")
	bench.See("Odo Marrin")
	bench.Press("Sign out")
	bench.See("Who is at the bench?")
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
