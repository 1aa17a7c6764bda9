package e2e

import (
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/kinds"
	"handwerk/workshop/record"
)

// A workshop of one's own: the program prints the way in, the first lead opens
// it, and the code is good once.
func TestAWorkshopOfOnesOwnIsOpened(t *testing.T) {
	t.Parallel()
	p, way := fresh(t)
	lead := visit(t, way)
	lead.base = p.Base
	lead.Role("heading", "A new workshop")
	lead.axe(t, "first run")
	for _, field := range [][2]string{
		{"Workshop name, as printed on paper", "Slipway garage"}, {"Hourly rate", "58"},
		{"Time zone", "Europe/Nowhere"},
		{"Your name, as it appears in the record", "Tove Lind"}, {"Sign-in name, short, lower case", "tove"}, {
			"Password (four unrelated words work well)", "oxide lantern pulley seven",
		},
	} {
		lead.Type(field[0], field[1])
	}
	lead.Press("Start the workshop")
	lead.See("is no time zone")
	lead.Type("Time zone", "Europe/Lisbon")
	lead.Press("Start the workshop")
	lead.Role("heading", "Board")
	lead.See("Tove Lind")
	lead.MustReload()
	lead.See("Tove Lind")

	lead.Press("Tove Lind")
	lead.Type("Name", "Odo Marrin")
	lead.Type("Sign-in name, lower case", "odo")
	lead.Type("First password (tell them in person)", "odo")
	lead.Press("Add")
	lead.See("10 to 200 characters")
	lead.Type("First password (tell them in person)", Password)
	lead.Press("Add")
	lead.See("signs in as odo")
	lead.axe(t, "people")
	odo := signIn(t, p.Base, "odo")
	odo.Role("heading", "Board")
	odo.takesInByKeyboard(t)
	lead.finishesWithNoSheet(t)

	late := visit(t, way)
	late.Field("Sign-in name")
	said, err := Run(bin, p.Dir, nil, "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "1 rebuild")
}

// fresh is the program on an empty database, and the way in that it prints.
func fresh(t *testing.T) (p *Program, way string) {
	t.Helper()
	dir, err := os.MkdirTemp("", "handwerk-own")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	p, err = Serve(bin, filepath.Join(dir, "data"))
	require.NoError(t, err)
	t.Cleanup(func() {
		assert.NoError(t, p.Stop())
		_ = os.RemoveAll(dir)
	})
	require.Eventually(t, func() bool {
		way = regexp.MustCompile(`http://[^\s]+/\?code=\S+\n`).FindString(p.ReadAct())
		return way != ""
	}, time.Minute, 50*time.Millisecond, "the program prints the way in")
	return p, strings.TrimSpace(way)
}

// opensTheShop opens the workshop as its first lead.
func (p *Person) opensTheShop(shop, name, login, password string) {
	for _, field := range [][2]string{
		{"Workshop name, as printed on paper", shop}, {"Hourly rate", "58"}, {"Time zone", "Europe/Lisbon"},
		{"Your name, as it appears in the record", name}, {"Sign-in name, short, lower case", login},
		{"Password (four unrelated words work well)", password},
	} {
		p.Type(field[0], field[1])
	}
	p.Press("Start the workshop")
	p.Role("heading", "Board")
}

// takesInByKeyboard takes in a unit nobody has a sheet for, of somebody who was
// never here, without a pointer; beyond the words typed it costs few keys.
func (p *Person) takesInByKeyboard(t *testing.T) {
	pressed := 0
	press := func(keys ...input.Key) {
		for _, k := range keys {
			p.press(k)
			pressed++
		}
	}
	write := p.MustInsertText
	press('o')
	p.Role("heading", "Who, what, why, by when")
	p.focused("Customer")
	write("Nora Quill")
	p.Role("option", "New customer:")
	press(input.Enter)
	p.focused("Name")
	press(input.Tab)
	write("0 55 12")
	press(input.Enter)
	p.focused("Vehicle")
	write("Old lorry")
	p.Role("option", "New vehicle: “Old lorry”")
	press(input.Enter)
	p.focused("Vehicle name, as you call it")
	press(input.Tab)
	write("QX 77")
	press(input.Enter)
	p.focused("Mileage or hours")
	write("88 000 km")
	press(input.Tab)
	write("410 N·m")
	press(input.Tab)
	write("9.00 R20")
	press(input.Tab, input.Tab, input.Space, input.Tab)
	p.focused("Unit")
	write("Grim")
	p.Role("option", "New kind of unit: “Grim”")
	press(input.Enter)
	p.focused("Unit type or family")
	p.See("manual gearbox")
	press(input.Tab)
	write("GR-1")
	press(input.Tab, input.ArrowRight, input.ArrowRight, input.Space) // a manual gearbox
	p.See("Manual gearbox, longitudinal")
	press(input.Tab, input.ArrowDown, input.Enter)
	p.focused("Complaint, in the customer's words")
	write("It howls above 40.")
	press(input.Tab, input.Tab)
	p.focused("Promised for")
	write("+12")
	press(input.Enter)
	p.Role("heading", "Vehicle and unit")
	p.See("Nora Quill")
	assert.Less(t, pressed, 60, "keys beyond the words")
}

// focused waits until the hand is at a field.
func (p *Person) focused(label string) {
	p.wait("the hand at "+label, `label => document.activeElement?.labels?.[0]?.innerText.trim() === label`, label)
}

// finishesWithNoSheet takes the first rebuild to hand-over: what the sheet does
// not say is answered at the bench, by hand where it is asked first, and one
// answer is kept in the family's sheet.
func (p *Person) finishesWithNoSheet(t *testing.T) {
	rebuild := p.rebuildPath("Old lorry")
	var typed, unknown bool
	for range 600 {
		step, view := p.nextOpen(t, rebuild)
		if view == nil {
			break
		}
		asked := missing(view)
		switch {
		case asked == nil || (typed && unknown):
			p.says(rebuild, step, kinds.Plausible(view))
			continue
		case asked.Shape == book.ShapeLimit && !typed:
			typed = true
			p.Go(rebuild + "/" + step)
			p.See("Not on the spec sheet")
			p.Type("At least", "0.05")
			p.Type("At most", "0.15")
			p.click(
				"where it comes from",
				`() => document.querySelector('[data-asks=origin] button[value=makers-book]')`,
			)
			p.Type("Source details", "page 12")
			p.Do("figure", asked.Path)
			p.See("workshop manual")
			p.click("the key that keeps it", button, "keep-figure", asked.Path)
			p.See("Saved ")
			p.axe(t, "a figure said")
		case !unknown:
			unknown = true
			p.Go(rebuild + "/" + step)
			p.See("Not on the spec sheet")
			p.axe(t, "a figure asked for")
			p.Do("figure-unknown", asked.Path)
			p.See("not known")
		default:
			p.says(rebuild, step, kinds.Plausible(view))
		}
	}
	assert.True(t, typed && unknown, "the bench asked for what the sheet lacks")
	p.Go(strings.Replace(rebuild, "/rebuilds/", "/records/", 1))
	p.See("Tove Lind, lead")
	p.See("page 12")
	p.donePath("Old lorry")
}

// nextOpen is the first step that can be worked on; none when it is handed over.
func (p *Person) nextOpen(t *testing.T, rebuild string) (string, record.StepView) {
	sheet := p.sheetOf(rebuild)
	if sheet.Rebuild.Place.Closed {
		return "", nil
	}
	i := slices.IndexFunc(sheet.Steps, func(s record.StepStatus) bool { return s.Status == record.Open })
	require.GreaterOrEqual(t, i, 0, "nothing is open")
	return sheet.Steps[i].ID, p.step(rebuild, sheet.Steps[i].ID)
}

// missing is the first figure that a step asks for, once its cautions are read.
func missing(view record.StepView) *record.FigureView {
	if _, reads := kinds.Acknowledging(view, record.Draft{}); reads {
		return nil
	}
	for _, f := range view.Frame().Figures {
		if f.Entry == "" && !f.May {
			return &f
		}
	}
	return nil
}
