package e2e

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// rebuildPath opens a rebuild of the demo by its number and gives its path.
func (p *Person) rebuildPath(number string) string {
	p.Go("/")
	p.See("In the house")
	if number == "26-001" {
		p.Press("Handed over")
	}
	p.Press(number)
	p.within().MustElement("aside")
	return strings.Join(strings.SplitN(p.MustEval(`() => location.pathname`).String(), "/", 4)[:3], "/")
}

// TestAxeFindsNothing visits every view, light and dark, wide and upright.
func TestAxeFindsNothing(t *testing.T) {
	p := demo(t)
	visitor := browser.Visit(p.Base)
	visitor.axe(t, "sign-in")
	visitor.SignIn("ilva")
	out, torque, drive, done := visitor.rebuildPath("26-003"), visitor.rebuildPath("26-005"), visitor.rebuildPath("26-006"), visitor.rebuildPath("26-001")
	fresh := visitor.rebuildPath("26-007")
	views := map[string]string{
		"board": "/", "open": "/open", "measure": out + "/end-float", "torque": torque + "/cover-bolts", "drive card": drive + "/drive-after", "stack off": fresh + "/strip",
		"stack looked at": out + "/parts", "stack in": torque + "/build", "sealant": torque + "/sealant", "fluid": fresh + "/fluid", "decide": fresh + "/way", "caution": fresh + "/on-vehicle",
		"make safe": fresh + "/make-safe", "photo": fresh + "/arrival-photo", "gate": fresh + "/sign-off", "record": strings.Replace(done, "/rebuilds/", "/records/", 1),
	}
	for _, theme := range []string{"light", "dark"} {
		visitor.MustEval(`theme => localStorage.setItem('handwerk.theme', theme)`, theme)
		for name, path := range views {
			visitor.Go(path)
			visitor.within().MustElement("h2, ul li, legend")
			visitor.axe(t, name+", "+theme)
		}
	}
	visitor.MustSetViewport(820, 1180, 1, false)
	for name, path := range views {
		visitor.Go(path)
		visitor.within().MustElement("h2, ul li, legend")
		visitor.axe(t, name+", upright")
		assert.LessOrEqual(t, visitor.MustEval(`() => document.documentElement.scrollWidth`).Int(), 820, "%s does not scroll sideways", name)
	}
}

// axe looks for what keeps anybody out; it must find nothing. Its source is
// evaluated by the debugger, since the page itself forbids foreign scripts.
func (p *Person) axe(t *testing.T, view string) {
	t.Helper()
	source, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	require.NoError(t, err)
	p.MustEval(`() => { ` + string(source) + ` }`)
	found := p.MustEval(`async () => {
		const r = await axe.run(document, { resultTypes: ['violations'] });
		return r.violations.map(v => v.id + ': ' + v.help + ' at ' + v.nodes.map(n => n.target.join(' ') + ' ' + (n.any[0]?.message ?? '')).slice(0, 3).join(' | ')).join('\n');
	}`).String()
	assert.Empty(t, found, view)
}

func TestKeysAndHelp(t *testing.T) {
	p := demo(t)
	ilva := browser.SignIn(p.Base, "ilva")
	ilva.Go(ilva.rebuildPath("26-005") + "/sealant")
	ilva.See("Cover sealant")
	ilva.Keyboard.MustType('?')
	ilva.See("Keys that work here")
	ilva.See("next step")
	ilva.axe(t, "keys")
	ilva.Press("Close")
	ilva.SeeNot("Keys that work here")
	ilva.Keyboard.MustType('n')
	ilva.wait("the next step", `() => document.querySelector('h2')?.innerText === 'Cover bolts'`)
	ilva.Keyboard.MustType('d')
	assert.NotEmpty(t, ilva.MustEval(`() => document.documentElement.dataset.theme`).String())
}

// A reader sees everything and can change nothing.
func TestAReaderLooksOn(t *testing.T) {
	p := demo(t)
	guest := browser.SignIn(p.Base, "guest")
	assert.False(t, guest.MustHas("a[href='/open']"))
	guest.Go(guest.rebuildPath("26-005") + "/cover-bolts")
	guest.See("Next: bolt 7")
	assert.True(t, guest.MustEval(`() => document.querySelector('form')?.closest('[inert]') !== null`).Bool())
}
