package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var (
	bin     string
	browser *Browser
)

func TestMain(m *testing.M) {
	os.Exit(func() int {
		dir, err := os.MkdirTemp("", "handwerk-e2e")
		if err == nil {
			defer func() { _ = os.RemoveAll(dir) }()
			err = os.Chmod(dir, 0o755)
		}
		if err == nil {
			bin, err = Build(dir)
		}
		if err == nil {
			browser, err = OpenBrowser()
		}
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
		defer browser.MustClose()
		var started *Program
		shared = sync.OnceValues(func() (*Program, error) {
			var err error
			started, err = Start(bin, filepath.Join(dir, "shared"))
			return started, err
		})
		defer func() {
			if started != nil {
				_ = started.Stop()
			}
		}()
		return m.Run()
	}())
}

// shared is one program for the tests that only look.
var shared func() (*Program, error)

func lookOnly(t *testing.T) *Program {
	t.Helper()
	p, err := shared()
	require.NoError(t, err)
	return p
}

// demo starts the program on data of its own.
func demo(t *testing.T) *Program {
	t.Helper()
	dir, err := os.MkdirTemp("", "handwerk-demo")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	p, err := Start(bin, filepath.Join(dir, "data"))
	require.NoError(t, err)
	t.Cleanup(func() {
		assert.NoError(t, p.Stop())
		_ = os.RemoveAll(dir)
	})
	return p
}

func picture(t *testing.T) string {
	t.Helper()
	var raw bytes.Buffer
	require.NoError(t, png.Encode(&raw, image.NewGray(image.Rect(0, 0, 320, 200))))
	name := filepath.Join(t.TempDir(), "unit.png")
	require.NoError(t, os.WriteFile(name, raw.Bytes(), 0o600))
	return name
}

// TestTheWholeRun carries one transfer case from complaint to hand-over, as a
// mechanic would, through every station, with the server killed on the way.
func TestTheWholeRun(t *testing.T) {
	p := demo(t)
	require.Eventually(t, func() bool { return strings.Contains(p.Said(), "sign in as ilva, password "+Password) }, time.Minute, 50*time.Millisecond)
	ilva := browser.SignIn(p.Base, "ilva")
	for _, words := range []string{"Ferry-terminal tug 1", "Waiting for parts: dog sleeve", "undecided: read again", "promised"} {
		ilva.See(words)
	}

	ilva.newRebuild()
	number := ilva.MustElement("header span").MustText()

	t.Log("intake")
	ilva.answer("Done", "Limped home", "Gouged bores or mixed fasteners", "Field or sand", "Done")
	ilva.goOn("Picture as it arrived")
	ilva.MustElement("input[type=file]").MustSetFiles(picture(t))
	ilva.within().MustElement(`img[src^="/api/v1/photos/"]`)

	t.Log("diagnose")
	ilva.goOn("Drive card, before")
	ilva.answer("Drives quietly", "Loud", "None", "None", "Damp")
	ilva.Type("Housing temperature after the drive", "78")
	ilva.Enter()
	ilva.answer("Drives quietly", "Bangs under load", "Jumps out", "Cleanly")
	ilva.goOn("The complaint, in short")
	ilva.answer("Bangs or jumps out")
	ilva.See("Dog clutch jumps: its shaft floats")
	ilva.goOn("Tests on the vehicle")
	ilva.acknowledge("Crushing")
	ilva.See("Next test")
	ilva.moreTests()
	ilva.test("Output flange pushed, pulled and rocked", "It knocks lengthways")
	ilva.test("Drain-plug magnet", "Chips")
	ilva.goOn("What the tests say")
	ilva.Press("Put it on record")
	ilva.goOn("The ways, weighed")
	ilva.See("Rebuild here")
	ilva.Press("Put it on record")
	ilva.goOn("Which way to go")
	ilva.decide("Rebuild here", "float felt at the flange, chips on the magnet")

	t.Log("take apart")
	ilva.goOn("Make the vehicle safe")
	ilva.acknowledge("Crushing")
	ilva.acknowledge("Tipping")
	ilva.acknowledge("Short circuit")
	ilva.goOn("Mark and count")
	ilva.answer("Done")
	ilva.Type("Connectors pulled and tagged", "3")
	ilva.Enter()
	ilva.answer("Done")
	ilva.goOn("Drain and read the oil")
	ilva.answer("Glitter", "Chips", "None on this unit", "Done")
	ilva.Type("How much came out", "2.1 L")
	ilva.Enter()
	ilva.goOn("Release the transfer case's weight")
	ilva.acknowledge("The unit drops")
	ilva.goOn("Parts off the front output")
	for i, part := range []string{"Flange nut", "Output flange", "Output seal", "Front cover", "Front bearing", "Sleeve circlip", "Shift fork", "Dog sleeve", "Thrust washer", "Front drive gear", "Needle roller", "Front output shaft"} {
		ilva.See("Now off: " + part)
		if part == "Thrust washer" {
			ilva.Press("Not there")
			continue
		}
		ilva.Type("Tray", fmt.Sprintf("tray %d", i/4+1))
		ilva.Press("Off and laid down")
	}

	t.Log("inspect")
	ilva.goOn("Each part looked at")
	for _, judged := range [][3]string{
		{"Flange nut", "", "Replace"}, {"Output flange", "", "Reuse"}, {"Output seal", "", "Replace"}, {"Front cover", "", "Reuse"}, {"Front bearing", "", "Reuse"}, {"Sleeve circlip", "", "Replace"},
		{"Shift fork", "", "Reuse"}, {"Dog sleeve", "corners of the teeth carried, dressed", "Rework"}, {"Thrust washer", "left out by an earlier repair", "Not found"}, {"Front drive gear", "", "Reuse"}, {"Needle roller cage", "", "Reuse"}, {"Front output shaft", "", "Reuse"},
	} {
		ilva.wait("part "+judged[0], `name => [...document.querySelectorAll('h3')].some(h => h.innerText.startsWith(name))`, judged[0])
		if judged[1] != "" {
			ilva.Type("What was seen", judged[1])
		}
		ilva.Press(judged[2])
	}
	ilva.goOn("Root cause")
	ilva.decide("Dog clutch jumps: its shaft floats", "the thrust washer was left out by an earlier repair")

	t.Log("choose")
	ilva.goOn("Parts at hand")
	ilva.decide("All here and compared", "")
	ilva.goOn("Fluid and quantity")
	ilva.Choose("API GL-5")
	ilva.Type("Quantity", "2.5 US qt")
	ilva.See("GL-5 eats yellow metal")
	ilva.Choose("API GL-4")
	ilva.See("2.37 L")
	ilva.Press("Put it down")

	t.Log("measure, with another pair of eyes on it, and a dying server")
	ilva.goOn("Output shaft end float")
	odo := browser.SignIn(p.Base, "odo")
	odo.Go(strings.TrimPrefix(ilva.MustInfo().URL, p.Base))
	ilva.read("0.6z mm")
	ilva.See("is not a unit known here")
	ilva.read("0.62 mm")
	odo.See("0.62 mm")
	ilva.read("24 thou")
	ilva.See("24 thou")
	require.NoError(t, p.Kill())
	ilva.read(".024 in")
	ilva.See("1 entry waits for the server")
	require.NoError(t, p.Again())
	ilva.MustReload()
	ilva.SeeNot("waits for the server")
	ilva.See(".024 in")
	odo.See(".024 in")
	ilva.See("Out, by 0.46")
	ilva.See("a washer of this size may be missing")
	ilva.See("Make the pack 0.52 mm; expect a float of 0.09 mm")
	ilva.Press("Fit this pack")
	ilva.See("trial 2")
	odo.See("trial 2")
	ilva.read("0.10 mm")
	ilva.read("0.09 mm")
	ilva.See("Expected")
	ilva.See("This step is done.")

	t.Log("assemble, dry run, sealant, torque")
	ilva.goOn("Parts back on")
	for range 12 {
		ilva.tick()
	}
	ilva.goOn("Dry run")
	ilva.answer("Free", "As it should", "Stands")
	ilva.goOn("Cover sealant")
	ilva.Choose("torque at once")
	ilva.Press("Cover touches: start the clock")
	ilva.Press("Time is over: go on")
	ilva.goOn("Cover bolts")
	for pass, setting := range []string{"13", "26"} {
		for i, bolt := range []int{1, 5, 3, 7, 2, 6, 4, 8} {
			ilva.See(fmt.Sprintf("Next: bolt %d, pass %d", bolt, pass+1))
			shows := setting
			if i == 3 && pass == 1 {
				shows = "35 N·m"
			}
			ilva.Type("The wrench shows", shows)
			ilva.Enter()
		}
	}
	ilva.Press("Every bolt held")

	t.Log("install, prove")
	ilva.goOn("Lift the transfer case in")
	ilva.acknowledge("The unit drops")
	ilva.acknowledge("Crushing")
	ilva.goOn("Fill to level")
	ilva.Choose("API GL-4")
	ilva.Type("Quantity", "2.4 L")
	ilva.Press("Put it down")
	ilva.goOn("Connect and count")
	ilva.Type("Connectors plugged, counted", "2")
	ilva.Enter()
	ilva.See("not the same as before")
	ilva.Press("Correct")
	ilva.Type("Connectors plugged, counted", "3")
	ilva.Enter()
	ilva.answer("Done", "Done")
	ilva.goOn("Standing")
	ilva.acknowledge("Driven on stands")
	ilva.answer("Dry", "As it should")
	ilva.goOn("Drive card, after")
	ilva.See("before the work")
	ilva.answer("Drives quietly", "None", "None", "None", "Dry")
	ilva.Type("Housing temperature after the drive", "140 °F")
	ilva.Enter()
	ilva.answer("Drives quietly", "Drives quietly", "Drives quietly", "Cleanly")

	t.Log("hand over")
	ilva.goOn("Running-in told")
	ilva.answer("Done", "Done", "Done")
	odo.Press("Board")
	odo.Press(number)
	odo.See("Lead's sign-off")
	odo.Choose("Hand over to the customer")
	odo.pressDecision()
	odo.See("only the lead may do this")
	ilva.goOn("Lead's sign-off")
	ilva.decide("Hand over to the customer", "")
	ilva.See("Decided by Ilva Torn")

	ilva.Press("Record")
	for _, words := range []string{"Ilva Torn, lead", "Thrust washer: not there", "read .024 in", "fitted 1 × 0.52 mm", "pass 2, bolt 7: 35 N·m", "Change the oil after 500 km"} {
		ilva.See(words)
	}
	id := ilva.MustEval(`() => location.pathname.split('/').pop()`).String()
	pdf := ilva.fetch("/api/v1/rebuilds/" + id + "/record.pdf")
	assert.True(t, strings.HasPrefix(pdf, "%PDF-"))
	archive := ilva.fetch("/api/v1/rebuilds/" + id + "/archive.json")
	checkArchive(t, p, number, archive)
}

// checkArchive imports the archive into an empty database, exports it again,
// and lets both databases prove their records.
func checkArchive(t *testing.T, p *Program, number, archive string) {
	t.Helper()
	other, err := os.MkdirTemp("", "handwerk-empty")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(other, 0o755))
	t.Cleanup(func() { _ = os.RemoveAll(other) })
	said, err := Run(bin, filepath.Join(other, "data"), []byte(archive), "import", "-")
	require.NoError(t, err)
	assert.Contains(t, said, "Rebuild "+number+" is in")
	again, err := Run(bin, filepath.Join(other, "data"), nil, "export", number)
	require.NoError(t, err)
	assert.Equal(t, archive, again, "the same record")
	said, err = Run(bin, p.Dir, nil, "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "15 rebuilds")
	assert.Contains(t, said, "every record holds")
}

// answer gives the next open line of a check or test each outcome in turn.
func (p *Person) answer(outcomes ...string) {
	for _, outcome := range outcomes {
		const open = `() => [...document.querySelectorAll('fieldset:has(> legend)')].find(f => !f.querySelector('[aria-checked=true]') && f.querySelector('[role=radio]') && !f.closest('fieldset:disabled'))?.querySelector('legend')?.innerText ?? ''`
		p.wait("an open line", `() => (`+open+`)() !== ''`)
		line := p.MustEval(open).String()
		p.Recording(outcome, func() {
			p.click("the outcome "+outcome, `(line, text) => {
				const open = [...document.querySelectorAll('fieldset:has(> legend)')].find(f => f.querySelector('legend')?.innerText === line);
				return (open && [...open.querySelectorAll('button')].find(b => b.getAttribute('aria-disabled') !== 'true' && b.innerText.trim().startsWith(text))) ?? null;
			}`, line, outcome)
		})
		p.wait("the answer "+outcome, `line => !!document.querySelector('h2') && ![...document.querySelectorAll('fieldset:has(> legend)')].some(f => f.querySelector('legend')?.innerText === line && !f.querySelector('[aria-checked=true]'))`, line)
	}
}

// acknowledge reads a caution; the sheet moves when it is on record.
func (p *Person) acknowledge(title string) {
	p.Recording(title, func() { p.Press("I have read: " + title) })
	p.SeeNot("I have read: " + title)
}

// test answers one test of the book by its name; the list moves under the hand.
func (p *Person) test(name, outcome string) {
	p.click("the outcome "+outcome, `(name, text) => {
		const line = [...document.querySelectorAll('fieldset:has(> legend)')].find(f => f.querySelector('legend')?.innerText.trim() === name && !f.closest('fieldset:disabled'));
		return (line && [...line.querySelectorAll('button')].find(b => b.getAttribute('aria-disabled') !== 'true' && b.innerText.trim().startsWith(text))) ?? null;
	}`, name, outcome)
	p.wait("the answer to "+name, `name => [...document.querySelectorAll('fieldset:has(> legend)')].find(f => f.querySelector('legend')?.innerText.trim() === name)?.querySelector('[aria-checked=true]') !== null`, name)
}

// moreTests unfolds the tests that tell little now.
func (p *Person) moreTests() {
	p.click("more tests", `() => [...document.querySelectorAll('button')].find(b => / more tests?$/.test(b.innerText.trim())) ?? null`)
}

// goOn waits until the step is done and follows to the next, by its title.
func (p *Person) goOn(title string) {
	p.See("This step is done.")
	p.Press("Go on: " + title)
	p.wait("the step "+title, `title => document.querySelector('h2')?.innerText === title`, title)
}

func (p *Person) decide(choice, reason string) {
	p.Choose(choice)
	if reason != "" {
		p.Type("Reason", reason)
	}
	p.pressDecision()
	p.See("Decided by")
}

// pressDecision presses what decides or signs; "Sign out" stands above it.
func (p *Person) pressDecision() {
	p.click("the decision", `() => [...document.querySelectorAll('main button')].find(b => b.getAttribute('aria-disabled') !== 'true' && /^(Decide|Sign)(\s|$)/.test(b.innerText)) ?? null`)
}

// read types a reading and takes it.
func (p *Person) read(text string) {
	p.Type("Next reading", text)
	p.Enter()
	if !strings.Contains(text, "z") {
		p.wait("an empty field", `() => document.querySelector('[aria-label="Next reading"]')?.value === ''`)
	}
}

// tick puts the next part in and waits for the one after it.
func (p *Person) tick() {
	const now = `() => [...document.querySelectorAll('h3')].find(h => h.innerText.startsWith('Now in'))?.innerText ?? ''`
	p.wait("a part to be put in", `() => (`+now+`)() !== ''`)
	before := p.MustEval(now).String()
	p.Recording(before, func() { p.Press("It is in") })
	p.wait("the next part", `(before) => ([...document.querySelectorAll('h3')].find(h => h.innerText.startsWith('Now in'))?.innerText ?? '') !== before`, before)
}

func (p *Person) fetch(path string) string {
	return p.MustEval(`async path => { const r = await fetch(path); if (!r.ok) throw new Error(r.status); return await r.text() }`, path).String()
}

func TestASecondStartIsQuickAndKeepsTheData(t *testing.T) {
	p := demo(t)
	require.NoError(t, p.Stop())
	assert.Contains(t, p.Said(), "Closing.")
	require.NoError(t, p.Again())
	said, err := Run(bin, p.Dir, nil, "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "14 rebuilds", "the demo was loaded once")
}

func TestATakenPortIsSaidPlainly(t *testing.T) {
	p := demo(t)
	other := &Program{Base: p.Base, Dir: t.TempDir(), bin: bin, addr: p.addr}
	t.Setenv("HANDWERK_ADDR", p.addr)
	_, err := Run(bin, other.Dir, nil, "demo")
	require.ErrorContains(t, err, "is taken by another program; choose another with HANDWERK_ADDR")
}

func TestCalcOnTheCommandLine(t *testing.T) {
	dir := t.TempDir()
	said, err := Run(bin, dir, nil, "calc")
	require.NoError(t, err)
	assert.Contains(t, said, "end-float")
	example, err := Run(bin, dir, nil, "calc", "end-float", "--example")
	require.NoError(t, err)
	said, err = Run(bin, dir, []byte(example), "calc", "end-float")
	require.NoError(t, err)
	var result struct {
		Method string `json:"method"`
	}
	require.NoError(t, json.Unmarshal([]byte(said), &result))
	assert.Equal(t, "end-float/1", result.Method)
	schema, err := Run(bin, dir, nil, "calc", "end-float", "--schema")
	require.NoError(t, err)
	assert.Contains(t, schema, "trial_pack")
	_, err = Run(bin, dir, []byte(`{"required":"-1 mm"}`), "calc", "shim-pack")
	require.ErrorContains(t, err, "tolerance: missing")
}
