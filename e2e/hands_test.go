package e2e

import (
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// hold keeps a key down for a second, as a keyboard tells it.
func (p *Person) hold(k input.Key) {
	for i := range 20 {
		down := k.Encode(proto.InputDispatchKeyEventTypeKeyDown, 0)
		down.AutoRepeat = i > 0
		if err := down.Call(p.Page); err != nil {
			p.fail("a held key", err)
		}
		time.Sleep(50 * time.Millisecond)
	}
	if err := k.Encode(proto.InputDispatchKeyEventTypeKeyUp, 0).Call(p.Page); err != nil {
		p.fail("a key let go", err)
	}
}

// Typed for a bolt that somebody else takes meanwhile, a reading stays with
// that bolt, over a reload too, and goes nowhere else.
func TestADraftStaysWithItsPlace(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo, ilva := signIn(t, p.Base, "odo"), signIn(t, p.Base, "ilva")
	path := odo.rebuildPath("Heritage fire pump, Holm VT") + "/cover-bolts"
	odo.Go(path)
	odo.bolt(1, 7)
	odo.Type("Wrench reading", "25 lb-ft")
	ilva.Go(path)
	ilva.bolt(1, 7)
	ilva.Recording("bolt 7", func() {
		ilva.Type("Wrench reading", "26 lb-ft")
		ilva.Enter()
	})
	odo.See("for bolt 7")
	const shows = `want => [...document.querySelectorAll('label')].find(l => l.innerText.startsWith('Wrench reading'))?.control?.value === want`
	odo.wait("an empty field at the next bolt", shows, "")
	odo.MustReload()
	odo.See("for bolt 7")
	odo.Press("Replace theirs with mine")
	odo.bolt(1, 7)
	odo.wait("what was typed, at its bolt", shows, "25 lb-ft")
	odo.Recording("the correction", odo.Enter)
	odo.SeeNot("for bolt 7")

	other := odo.rebuildPath("Beach cleaner")
	odo.Go(other + "/end-float")
	odo.Type("Next reading", "24.4")
	odo.Press("Sign out")
	odo.SignIn("ilva")
	odo.Go(other + "/end-float")
	assert.Empty(t, odo.Field("Next reading").MustProperty("value").String(),
		"what one typed does not stand in another's field")
}

// A value an order away from its neighbours is asked about, and taken when the
// same is said again.
func TestAStrangeValueIsAskedAbout(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.rebuildPath("Beach cleaner") + "/end-float")
	before := odo.recorded()
	odo.Type("Next reading", "0.61 thou")
	odo.Enter()
	odo.See("0.61 thou is 39 times smaller than")
	assert.Equal(t, before, odo.recorded())
	odo.Recording("the same again", odo.Enter)
	odo.SeeNot("times smaller than")
}

// A key held for a second writes once, and a part put down wrongly is put right.
func TestAHeldKeyWritesOnceAndAPartIsCorrected(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	odo.Go(odo.newRebuild() + "/strip-cover")
	odo.Type("Reason to start early", "the lift is needed")
	odo.Do("override", "")
	odo.Do("stands", "transfer-case")
	odo.Field("Tray").MustFocus()
	before := odo.recorded()
	odo.Type("Tray", "A7")
	odo.Recording("one part off", func() { odo.hold(input.Enter) })
	odo.Do("removed", "removed")
	assert.Equal(t, before+2, odo.recorded(), "a held key takes off one part")

	odo.wait("the tray in the list", `() => [...document.querySelectorAll('main td')].some(d => d.innerText === 'A7')`)
	odo.Press("correct")
	odo.See("Correct: ")
	odo.Type("Tray", "B2")
	odo.Do("removed", "removed")
	odo.wait(
		"the right tray",
		`() => [...document.querySelectorAll('main td')].some(d => d.innerText === 'B2') && ![...document.querySelectorAll('main td')].some(d => d.innerText === 'A7')`,
	)
}

// The server is away: two tabs lose nothing of each other, the bench goes on from
// what waits, a slip is corrected while it waits, and all goes in order after.
func TestTwoTabsAwayLoseNothing(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo := signIn(t, p.Base, "odo")
	torque, float := odo.rebuildPath("Heritage fire pump, Holm VT")+"/cover-bolts", odo.rebuildPath("Beach cleaner")+
		"/end-float"
	other := odo.tab(t, p.Base+float)
	other.Field("Next reading")
	odo.Go(torque)
	odo.bolt(1, 7)
	require.NoError(t, p.Kill())

	other.read("0.615 mm")
	other.See("1 entry not sent yet")
	odo.Type("Wrench reading", "42 lb-ft")
	odo.Enter()
	odo.bolt(1, 2)
	odo.click(
		"the reading that waits",
		`() => [...document.querySelectorAll('[aria-label="Wrench readings"] button')].find(b => b.textContent.startsWith('bolt 7, pass 1:')) ?? null`,
	)
	odo.bolt(1, 7)
	odo.Type("Wrench reading", "24 lb-ft")
	odo.Enter()
	odo.bolt(1, 2)
	odo.See("3 entries not sent yet")

	require.NoError(t, p.Again())
	odo.MustReload()
	odo.SeeNot("not sent yet")
	odo.Go(float)
	odo.See("0.615 mm")
	odo.Go(torque)
	odo.bolt(1, 2)
	odo.wait(
		"the right reading, once",
		`() => [...document.querySelectorAll('[aria-label="Wrench readings"] button')].some(b => b.textContent.startsWith('bolt 7, pass 1: 24 '))`,
	)
	assert.NotContains(t, odo.MustElement("body").MustText(), "Refused after all")
}

// tab opens another tab of the same browser.
func (p *Person) tab(t *testing.T, url string) *Person {
	t.Helper()
	page, err := p.Page.Browser().Page(proto.TargetCreateTarget{URL: url})
	require.NoError(t, err)
	return at(page, p.base, p.ends)
}

// Eight tabs work: they share one stream, and what one says all show.
func TestEightTabsShareOneStream(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo, ilva := signIn(t, p.Base, "odo"), signIn(t, p.Base, "ilva")
	path := odo.rebuildPath("Beach cleaner") + "/end-float"
	tabs := []*Person{}
	for range 8 {
		tab := odo.tab(t, p.Base+path)
		tab.Field("Next reading")
		tabs = append(tabs, tab)
	}
	ilva.Go(path)
	ilva.read("0.615 mm")
	for _, tab := range []*Person{tabs[0], tabs[7]} {
		tab.See("0.615 mm")
	}
	tabs[3].read("0.605 mm")
	ilva.See("0.605 mm")

	ilva.Press("Board") // where nothing is told of a step
	ilva.Role("button", "In the shop")
	tabs[3].read("0.595 mm")
	ilva.within().MustNavigateBack()
	ilva.See("0.595 mm")
}

// Two answers are read apart, and another's entry comes between them: the step is
// not taken for new because the head of the rebuild is.
func TestAnEntryBetweenTwoAnswersIsSeen(t *testing.T) {
	t.Parallel()
	p := demo(t)
	odo, ilva := signIn(t, p.Base, "odo"), signIn(t, p.Base, "ilva")
	path := odo.rebuildPath("Beach cleaner") + "/end-float"
	ilva.Go(path)
	_, err := odo.EvalOnNewDocument(`
		const fetched = window.fetch, listened = EventSource.prototype.addEventListener;
		window.fetch = async (...asked) => {
			const { pathname } = new URL(asked[0].url ?? asked[0], location.href);
			if (/rebuilds.[^/]+$/.test(pathname)) { window.headAsked = true; await window.headMayGo; }
			return fetched(...asked);
		};
		EventSource.prototype.addEventListener = function (name, f) {
			listened.call(this, name, async (e) => { if (name === 'message') await window.newsMayGo; f(e); });
		};
		window.hold = what => { window[what] = new Promise(go => { window[what + 'Now'] = go; }); };`)
	require.NoError(t, err)
	odo.Go(path)
	odo.Field("Next reading")
	ilva.read("0.615 mm")
	odo.See("0.615 mm")

	odo.MustEval(`() => { hold('headMayGo'); headAsked = false }`)
	ilva.Recording("what odo asks after", func() { ilva.read("0.605 mm") })
	odo.See("0.605 mm") // the step was read; the head of the rebuild is still on its way
	odo.wait("the head on its way", `() => headAsked`)
	odo.MustEval(`() => hold('newsMayGo')`)
	ilva.Recording("what comes between", func() { ilva.read("0.595 mm") })
	odo.MustEval(`() => headMayGoNow()`)
	time.Sleep(time.Second)
	odo.MustEval(`() => newsMayGoNow()`)
	odo.See("0.595 mm")
}
