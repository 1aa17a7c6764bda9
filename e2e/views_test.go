package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// finished is the demo's vehicle whose rebuild was handed over.
const finished = "Observatory six-wheel truck"

// rebuildPath opens a rebuild in the house and gives its path; words that its
// row shows, joined by commas, tell which.
func (p *Person) rebuildPath(vehicle string) string {
	p.Go("/")
	p.Role("button", "In the shop")
	return p.follow(vehicle)
}

// seeReading waits for a reading on the strip, with the slip struck through before it.
func (p *Person) seeReading(reading, slip string) {
	p.wait("the reading "+reading, `(reading, slip) => [...document.querySelectorAll('[aria-label="Readings"] button')]
		.some(b => b.textContent.startsWith('Reading ' + reading) && (b.querySelector('s')?.innerText ?? '') === slip)`,
		reading, slip)
}

// typeDay types a day as a date field takes it.
func (p *Person) typeDay(label string, day time.Time) {
	p.Type(label, day.Format("2006-01-02"))
}

// donePath is rebuildPath for one that was handed over.
func (p *Person) donePath(vehicle string) string {
	p.Go("/")
	p.Press("Handed over")
	p.See("Handed over, the latest first")
	return p.follow(vehicle)
}

// customerPath finds a customer by name.
func (p *Person) customerPath(name string) string {
	return "/customers/" + p.MustEval(
		`async name => (await (await fetch('/api/v1/find?q=' + encodeURIComponent(name))).json()).customers[0].id`,
		name,
	).String()
}

func (p *Person) follow(vehicle string) string {
	p.click(
		"the rebuild of "+vehicle,
		`words => [...document.querySelectorAll('main li a')]
			.find(a => words.split(', ').every(w => a.innerText.includes(w))) ?? null`,
		vehicle,
	)
	p.within().MustElement("aside")
	return strings.Join(strings.SplitN(p.MustEval(`() => location.pathname`).String(), "/", 4)[:3], "/")
}

// TestAxeFindsNothing visits every view, light and dark, wide and upright.
func TestAxeFindsNothing(t *testing.T) {
	t.Parallel()
	p := lookOnly(t)
	visitor := visit(t, p.Base)
	visitor.axe(t, "sign-in")
	visitor.SignIn("ilva")
	out, torque := visitor.rebuildPath("Beach cleaner"), visitor.rebuildPath("Heritage fire pump, Holm VT")
	drive, toBuy := visitor.rebuildPath(
		"Ferry-terminal tug 1, Brakka T2",
	), visitor.rebuildPath(
		"Ferry-terminal tug 1, Brakka G5",
	)
	fresh, done := visitor.rebuildPath(finished), visitor.donePath(finished)
	clutch, axle := visitor.rebuildPath(
		"Slipway tractor, Skerry C228",
	), visitor.rebuildPath(
		"Slipway tractor, Brakka A9",
	)
	box := visitor.rebuildPath("Heritage fire pump, Brakka G5")
	views := map[string]string{
		"board": "/", "take in": "/open", "account": "/account", "find": "/find", "drawers": "/drawers",
		"shop":   "/shop",
		"gauges": "/gauges", "sheets": "/sheets", "routes": "/routes", "route": "/routes/transfer-case-dog",
		"sheet": "/sheets/brakka-a9", "unit": "/units/observatory-truck.tc",
		"customer": visitor.customerPath("Harbour office"),
		"costs":    strings.Replace(clutch, "/rebuilds/", "/costs/", 1),
		"trays":    strings.Replace(out, "/rebuilds/", "/trays/", 1),
		"record":   strings.Replace(done, "/rebuilds/", "/records/", 1),
		"measure":  out + "/end-float", "stack looked at": out + "/parts",
		"torque": torque + "/cover-bolts", "stack in": torque + "/build", "sealant": torque + "/sealant",
		"drive card": drive + "/drive-after", "parts list": toBuy + "/parts-here",
		"stack off": fresh + "/strip", "fluid": fresh + "/fluid", "decide": fresh + "/way", "caution": fresh + "/tests",
		"make safe": fresh + "/make-safe", "photo": fresh + "/arrival-photo", "gate": fresh + "/sign-off",
		"diagnosis": clutch + "/tests", "weighed": clutch + "/way",
		"every gear": box + "/shift-before", "housing": box + "/housing",
		"driveline": axle + "/which-turned", "figures": axle + "/backlash",
		"choices": axle + "/pattern", "school": axle + "/school",
	}
	for name, path := range views {
		visitor.Go(path)
		visitor.within().MustElement("h2, ul li, main [role=status]")
		visitor.axe(t, name+", light")
		visitor.MustEval(`() => { document.documentElement.dataset.theme = 'dark' }`)
		visitor.axe(t, name+", dark", onlyOf["dark"]...)
		visitor.MustEval(`() => { document.documentElement.dataset.theme = 'light' }`)
		for _, width := range []int{820, 320} {
			visitor.MustSetViewport(width, 1180, 1, false)
			visitor.axe(t, fmt.Sprintf("%s at %d px", name, width), onlyOf[fmt.Sprint(width)]...)
			visitor.fits(t, fmt.Sprintf("%s at %d px", name, width))
		}
		for _, size := range [][2]int{{390, 1180}, {1280, 800}} { // no part shows here that does not above
			visitor.MustSetViewport(size[0], size[1], 1, false)
			visitor.fits(t, fmt.Sprintf("%s at %d px", name, size[0]))
		}
	}
}

// onlyOf are the rules whose answer the light or the size of a view may change;
// the others have been asked in the light.
var onlyOf = map[string][]string{
	"dark": {"color-contrast", "link-in-text-block"},
	"820":  {"target-size", "scrollable-region-focusable", "region", "page-has-heading-one"},
	"320":  {"target-size", "scrollable-region-focusable", "region", "page-has-heading-one"},
}

// axe looks for what keeps anybody out, by all rules or by some; it must find
// nothing. Its source is evaluated by the debugger, since the page itself
// forbids foreign scripts.
func (p *Person) axe(t *testing.T, view string, only ...string) {
	t.Helper()
	if !p.MustEval(`() => 'axe' in window`).Bool() {
		source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
		require.NoError(t, err)
		p.MustEval(`() => { ` + string(source) + ` }`)
	}
	found := p.MustEval(`async only => {
		await document.fonts.ready; // text in a font still on its way counts as none
		const some = only.length > 0 && { runOnly: { type: 'rule', values: only } };
		const r = await axe.run(document, { resultTypes: ['violations'], ...some });
		// A region in a disabled fieldset takes the focus all the same, which axe does not know.
		const reached = n => document.querySelector(n.target[0])?.matches('fieldset:disabled [tabindex="0"]');
		for (const v of r.violations) {
			if (v.id === 'scrollable-region-focusable') v.nodes = v.nodes.filter(n => !reached(n));
		}
		const where = n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '');
		return r.violations.filter(v => v.nodes.length > 0)
			.map(v => v.id + ': ' + v.help + ' at ' + v.nodes.slice(0, 3).map(where).join(' | ')).join('\n');
	}`, append([]string{}, only...)).String()
	assert.Empty(t, found, view)
}

// fits looks for what a thumb or a narrow page cannot reach: nothing lies beyond
// the edge, the way on from a step that is done is in sight, and whatever is pressed
// is at least 44 px either way: a link within a sentence aside, and what is drawn
// small but stands in a list beside it too.
func (p *Person) fits(t *testing.T, view string) {
	t.Helper()
	found := p.MustEval(`() => {
		const wide = document.documentElement.scrollWidth - innerWidth;
		const said = wide > 0 ? ['the page is ' + wide + ' px too wide'] : [];
		const name = e => (e.getAttribute('aria-label') || e.innerText || e.textContent || e.id || e.tagName)
			.trim().slice(0, 30);
		const inSentence = e => e.tagName === 'A' &&
			[...e.parentNode.childNodes].some(n => n.nodeType === 3 && /\w/.test(n.data));
		const pressed = ['a[href]', 'button', 'input:not([type=file])', 'select', 'textarea', 'summary',
			'[role=radio]', '[role=button]', '[role=tab]'];
		for (const e of document.querySelectorAll(pressed.join(', '))) {
			const box = (e.matches('[type=checkbox], [type=radio]') && e.closest('label') || e).getBoundingClientRect();
			if (box.width < 2 || box.height < 2 || inSentence(e) || e.matches('svg [tabindex="-1"]')) continue;
			if (!e.checkVisibility({ visibilityProperty: true })) continue;
			const size = Math.round(box.width) + ' x ' + Math.round(box.height);
			if (box.height < 43.5 || box.width < 43.5) said.push(e.tagName + ' ' + name(e) + ': ' + size);
		}
		const on = innerWidth <= 600 && document.querySelector('main ~ aside button[name=next]');
		if (on && on.getBoundingClientRect().bottom > innerHeight) said.push('the way on lies below the fold');
		return said.join('\n');
	}`).String()
	assert.Empty(t, found, view)
}

func TestKeysAndHelp(t *testing.T) {
	t.Parallel()
	p := lookOnly(t)
	ilva := signIn(t, p.Base, "ilva")
	ilva.Go(ilva.rebuildPath("Heritage fire pump, Holm VT") + "/sealant")
	ilva.at("sealant")
	ilva.Keyboard.MustType('?')
	ilva.Role("heading", "Keys on this page")
	ilva.See("next step")
	ilva.axe(t, "keys")
	ilva.Press("Close")
	ilva.SeeNot("Keys on this page")
	ilva.Keyboard.MustType('n')
	ilva.at("cover-bolts")
	ilva.Keyboard.MustType('d')
	assert.NotEmpty(t, ilva.MustEval(`() => document.documentElement.dataset.theme`).String())
}

// A reader sees everything and can change nothing.
func TestAReaderLooksOn(t *testing.T) {
	t.Parallel()
	p := lookOnly(t)
	guest := signIn(t, p.Base, "guest")
	assert.False(t, guest.MustHas("a[href='/open']"))
	guest.Go(guest.rebuildPath("Heritage fire pump, Holm VT") + "/cover-bolts")
	guest.bolt(1, 7)
	assert.True(t, guest.MustEval(`() => document.querySelector('form')?.closest('fieldset:disabled') !== null`).Bool())
}

// What was typed and what was said survive a reload, a slip is struck through
// and stays readable, and a picture that is none is refused in words.
func TestNothingTypedIsLost(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Beach cleaner") + "/end-float")
	odo.Type("Next reading", "23.9")
	odo.See("End float with this reading")
	odo.MustReload()
	odo.wait("the typed reading", `() => document.querySelector('[aria-label="Next reading"]')?.value === '23.9'`)
	odo.Enter()
	odo.seeReading("23.9 thou", "")

	// In a full field the key moves the cursor.
	odo.wait("an empty field", `() => document.querySelector('[aria-label="Next reading"]')?.value === ''`)
	odo.press(input.ArrowLeft)
	odo.Type("Corrected reading", "24.1")
	odo.Enter()
	odo.seeReading("24.1", "23.9 thou")

	odo.Press("Write a remark")
	odo.Type("Remark", "shaft end polished before reading")
	odo.MustReload()
	odo.See("Beach cleaner")
	odo.Press("Write a remark")
	odo.wait("the remark", `() => document.querySelector('textarea[name=remark]')?.value.startsWith('shaft end')`)
	odo.Do("note", "")
	odo.Press("Record")
	odo.See("shaft end polished before reading")
	odo.See("read 24.1 thou, Dial indicator no. 2, 0.5 thou; mean ")
	odo.See("(corrected)")
}

func TestAPictureThatIsNone(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Beach cleaner") + "/strip")
	fake := filepath.Join(t.TempDir(), "unit.jpg")
	require.NoError(t, os.WriteFile(fake, []byte("not a picture at all"), 0o600))
	// All parts are off there; open a new rebuild's first picture instead.
	odo.Go(odo.rebuildPath(finished) + "/strip")
	odo.See("Do first: Flange and front cover off")
	odo.Go(odo.newRebuild() + "/arrival-photo")
	odo.MustElement("input[type=file]").MustSetFiles(fake)
	odo.See("not a JPEG, PNG, GIF or WebP picture")
	odo.Type("No picture because", "camera fell into the oil")
	odo.Do("photo", "")
	odo.See("No picture: camera fell into the oil")
}

// newRebuild opens one for the launch carrier and gives its path.
func (p *Person) newRebuild() string {
	p.Go("/open")
	p.Pick("Customer", "BT2-0417", "out of Lifeboat launch carrier")
	p.See("transfer case, serial")
	p.Type("Complaint", "Bangs under load.")
	p.typeDay("Promised for", time.Now().AddDate(0, 0, 7))
	p.Press("Open the rebuild")
	p.Role("heading", "Vehicle and unit")
	return strings.Join(strings.SplitN(p.MustEval(`() => location.pathname`).String(), "/", 4)[:3], "/")
}

// A session ends while somebody works: what he said waits under his name, and
// goes when he has signed in again.
func TestASessionThatRanOutLosesNothing(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	path := odo.rebuildPath("Beach cleaner") + "/end-float"
	odo.Go(path)
	odo.See("Fit this pack")
	odo.Type("Next reading", "24.2")
	odo.See("End float with this reading") // later, the answer to what is typed would ask for the name first
	odo.MustSetCookies()                   // the browser forgets who it was
	odo.Enter()
	odo.See("Say once more who you are")
	odo.wait("his page behind it", `() => document.querySelector('[aria-label="Next reading"]') !== null`)
	odo.axe(t, "signing in again")
	odo.SignIn("ilva")
	odo.See("1 entry of someone else is kept here")
	odo.Press("Sign out")
	odo.SignIn("odo")
	odo.Go(path)
	odo.seeReading("24.2 thou", "")
	odo.Press("4 entries recorded at this step")
	odo.See("Odo Marrin")
}

// A person sees where he is signed in, ends it there, and changes his password.
func TestAPersonLooksAfterHisAccount(t *testing.T) {
	t.Parallel()
	p := demo(t)
	here, there := signIn(t, p.Base, "runa"), signIn(t, p.Base, "runa")
	here.Go("/account")
	here.See("This browser")
	here.Press("Sign this one out")
	here.SeeNot("Sign this one out")
	there.MustReload()
	there.Field("Sign-in name")
	here.Type("Current password", Password)
	here.Type("New password", "1234567890")
	here.Press("Change password")
	here.See("it is too easy to guess")
	here.Type("New password", "oxide lantern pulley seven")
	here.Press("Change password")
	here.See("Password changed.")
	here.axe(t, "changed password")
	here.Press("Sign out")
	here.Field("Sign-in name")
}

// The first page loads little: under 120 kB of scripts as sent and under 60 kB
// of fonts. What is fetched while nothing else is to do comes after it.
func TestTheFirstLoadIsSmall(t *testing.T) {
	t.Parallel()
	p := lookOnly(t)
	ilva := signIn(t, p.Base, "ilva")
	ilva.Role("button", "In the shop")
	sent := func(pick string) int {
		return ilva.MustEval(`async pick => {
			await document.fonts.ready;
			const page = new DOMParser().parseFromString(await (await fetch('/')).text(), 'text/html');
			const named = [...page.querySelectorAll('script[src], link[rel=modulepreload]')]
				.map(e => e.getAttribute('src') ?? e.getAttribute('href'));
			const first = named.map(path => new URL(path, location).href);
			const picked = { scripts: r => first.includes(r.name), fonts: r => r.name.endsWith('.woff2') }[pick];
			return performance.getEntriesByType('resource').filter(picked).reduce((n, r) => n + r.encodedBodySize, 0);
		}`, pick).Int()
	}
	scripts, fonts := sent("scripts"), sent("fonts")
	assert.Positive(t, scripts)
	assert.Less(t, scripts, 120_000)
	assert.Positive(t, fonts)
	assert.Less(t, fonts, 60_000)
}

// An axle out of limits: the move is told, made, typed as changed, and the
// next trial comes in; the one before stays in sight.
func TestAnyCalculatorStandsAtItsStep(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Slipway tractor, Brakka A9") + "/backlash")
	odo.See("Move the ring 0.13 mm toward the pinion, from one pack to the other; expect 0.20 mm")
	odo.Type("What did you change?", "0.13 mm from the right pack to the left")
	odo.Do("again", "")
	odo.See("Trial 2. Changed: 0.13 mm from the right pack to the left")
	for _, ask := range [][2]string{{"Left pack", "2.63"}, {"Right pack", "2.37 mm"}} {
		odo.Type(ask[0], ask[1])
		odo.Enter()
		odo.wait(
			"the answer to "+ask[0], `name => document.querySelector('button[aria-label^="' + name + ':"]') !== null`,
			ask[0],
		)
	}
	for _, reading := range []string{"0.20", "0.21 mm", "8 thou", "0.20"} {
		odo.read(reading)
	}
	odo.find("the way on", `() => document.querySelector('button[name=next]')`)
	odo.MustReload()
	odo.See("as found")
	odo.See("2.63 mm")
	odo.axe(t, "two trials")
}

// The diagnosis answers while the tests are done, and says what comes next.
func TestTheDiagnosisFollowsTheTests(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Slipway tractor, Skerry C228") + "/tests")
	odo.See("Master cylinder lets fluid past its seal")
	odo.SeeNot("Clutch cable stretched or stiff")
	odo.See("Next test")
	odo.answer("cylinders-wet=wet-slave")
	odo.wait(
		"the slave cylinder first",
		`() => document.querySelector('aside ol li')?.innerText.startsWith('Slave cylinder')`,
	)
	odo.Press("For and against")
	odo.See("Look for fluid behind the pedal and at the slave's boot: Wet at the slave cylinder")
	odo.axe(t, "for and against")
}
