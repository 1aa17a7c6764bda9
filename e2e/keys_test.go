package e2e

import (
	"cmp"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"

	"handwerk/book"
	"handwerk/workshop"
)

// keyHand works at a rebuild by keys alone, as the screen leads it, and reads
// all that stands there.
type keyHand struct {
	*Person
	rebuild string   // its path
	leaves  string   // a step that this job does not need
	ours    []string // ids of the program that may not be read
	read    *regexp.Regexp
	found   []string // what a mechanic should not have to read, and where the hand was lost
}

// through goes from the first open step to the hand-over.
func (h *keyHand) through(t *testing.T) {
	t.Helper()
	step := h.firstOpen()
	h.Go(h.rebuild + "/" + step)
	for range 900 {
		h.at(step)
		view := h.step(h.rebuild, step)
		if view.Frame().Status == workshop.Done {
			h.readAll(step)
			if step = h.firstOpen(); step == "" {
				return
			}
			h.wait("the way on from "+view.Frame().Step.ID, `() => !!document.querySelector('button[name=next]')`)
			h.letter('g')
			continue
		}
		h.readAll(step)
		h.inHand(step, "before")
		if step == h.leaves {
			h.leavesAway(step)
			continue
		}
		h.act(step, view)
	}
	h.fail(step, errors.New("it does not end"))
}

// leavesAway says that a step is not needed, and why.
func (h *keyHand) leavesAway(step string) {
	h.Press("This step is not needed")
	h.focused("Not needed, because")
	h.write("the old ones go back")
	h.Recording("that it is not needed", func() { h.press(input.Enter) })
	h.See("It is needed after all")
	h.inHand(step, "leaving it away")
}

// firstOpen is the step the work is at; none when it is handed over.
func (h *keyHand) firstOpen() string {
	var sheet workshop.Sheet
	h.read200("/api/v1"+h.rebuild, &sheet)
	i := slices.IndexFunc(sheet.Steps, func(s workshop.StepStatus) bool { return s.Status == workshop.Open || s.Status == workshop.Held })
	if i < 0 {
		return ""
	}
	return sheet.Steps[i].ID
}

// act does the next thing at a step by its keys, and waits until it is on record.
func (h *keyHand) act(step string, view workshop.StepView) {
	d := workshop.Plausible(view)
	before := len(view.Frame().Entries)
	h.keys(step, view, d)
	for until := time.Now().Add(15 * time.Second); len(h.step(h.rebuild, step).Frame().Entries) <= before; time.Sleep(20 * time.Millisecond) {
		if time.Now().After(until) {
			h.fail(fmt.Sprintf("%s: %s of %s", step, d.Act, d.Item), errors.New("nothing new is on record"))
		}
	}
	h.inHand(step, string(d.Act)+" of "+d.Item.String())
}

// inHand: the focus is where a key can land, never on the page.
func (h *keyHand) inHand(step, after string) {
	if h.MustEval(`async () => {
		for (let n = 0; n < 40 && document.activeElement === document.body; n++) await new Promise(go => setTimeout(go, 25));
		return document.activeElement === document.body;
	}`).Bool() {
		h.found = append(h.found, fmt.Sprintf("%s, after %s: the hand is nowhere", step, after))
	}
}

// letter presses the key of an act; inside a field it wants Alt.
func (h *keyHand) letter(key input.Key) {
	if h.MustEval(`() => document.activeElement.matches('input:not([type=radio]):not([type=checkbox]), textarea')`).Bool() {
		h.KeyActions().Press(input.AltLeft).Type(key).MustDo()
		return
	}
	h.press(key)
}

func (h *keyHand) write(text string) {
	h.MustInsertText(text)
}

// keys are those a mechanic presses to say it.
func (h *keyHand) keys(step string, view workshop.StepView, d workshop.Draft) {
	switch d.Act {
	case workshop.ActAcknowledge:
		if _, ofStep := workshop.Acknowledging(view, workshop.Draft{}); !ofStep {
			h.outcome(view, d)
			return
		}
		h.letter('a')
	case workshop.ActFigure:
		h.letter('v')
	case workshop.ActOutcome:
		h.outcome(view, d)
	case workshop.ActRemoved:
		h.letter('t')
		h.write(d.Tray)
		h.press(input.Enter)
	case workshop.ActVerdict:
		h.verdict(view, d)
	case workshop.ActFitted, workshop.ActStart, workshop.ActReckon:
		h.letter('f')
	case workshop.ActReading:
		h.reading(view, d)
	case workshop.ActTorqued:
		h.write(d.Value.String())
		h.press(input.Enter)
	case workshop.ActFilled:
		h.filled(view, d)
	case workshop.ActEnd:
		h.tabTo("To go on sooner, say why")
		h.write(d.Reason)
		h.press(input.Enter)
	case workshop.ActPhoto:
		h.tabTo("Or no picture, because")
		h.write(d.Reason)
		h.press(input.Enter)
	case workshop.ActDecision:
		h.decision(view, d)
	case workshop.ActAccept:
		h.tabTo("Leave it as it is")
		h.press(input.Enter)
		h.write(d.Reason)
		h.press(input.Enter)
	case workshop.ActCame:
		h.order(view)
	default:
		h.fail(fmt.Sprintf("%s: %+v", step, d), errors.New("nobody knows its keys"))
	}
}

func (h *keyHand) outcome(view workshop.StepView, d workshop.Draft) {
	var items []workshop.ItemView
	switch x := view.(type) {
	case *workshop.CheckStep:
		items = x.Items
	case *workshop.TestStep:
		items = x.Items
	case *workshop.TorqueStep:
		h.letter('f')
		return
	case *workshop.DecideStep:
		h.tabTo("What was done about it")
		h.write(d.Note)
		h.press(input.Enter)
		return
	}
	// What may stay open is passed by, and the test that tells most comes first: the screen says where the hand is.
	at := h.MustEval(`() => document.querySelector('[data-current] fieldset')?.name ?? ''`).String()
	i := slices.IndexFunc(items, func(i workshop.ItemView) bool { return i.ID == at })
	if i < 0 {
		h.fail("the line in hand", errors.New("there is none"))
	}
	switch item := items[i]; {
	case slices.ContainsFunc(item.Cautions, func(c workshop.CautionView) bool { return c.Grave && c.By == "" }):
		h.letter('a')
	case item.Value != "":
		h.write("58")
		h.press(input.Enter)
	default:
		h.press(input.Key('1' + rune(max(0, slices.IndexFunc(item.Answers, func(a workshop.Answer) bool { return a.Good })))))
	}
}

func (h *keyHand) verdict(view workshop.StepView, d workshop.Draft) {
	x := view.(*workshop.StackStep)
	i := slices.IndexFunc(x.Stack, func(p workshop.StackPart) bool { return workshop.ReadPlace(p.ID) == d.Item })
	a := slices.IndexFunc(x.Stack[i].Answers, func(a workshop.Answer) bool { return a.ID == d.Outcome })
	if d.Reason != "" && x.Stack[i].Answers[a].Reason {
		h.letter('t')
		h.write(d.Reason)
		h.press(input.Enter)
	}
	h.press(input.Key('1' + rune(a)))
}

func (h *keyHand) reading(view workshop.StepView, d workshop.Draft) {
	x := view.(*workshop.MeasureStep)
	if x.Calc == "shift-matrix" {
		h.letter('i')
		return
	}
	for _, a := range x.Asks {
		if a.ID == d.Item.Name && len(a.Choices) > 0 {
			i := slices.IndexFunc(a.Choices, func(c book.AskChoice) bool { return c.ID == d.Outcome })
			h.press(input.Key('1' + rune(i)))
			return
		}
	}
	h.write(d.Value.String())
	h.press(input.Enter)
}

func (h *keyHand) filled(view workshop.StepView, d workshop.Draft) {
	x := view.(*workshop.FillStep)
	if x.Chosen == "" {
		i := slices.IndexFunc(x.Fluids, func(f book.Fluid) bool { return f.ID == d.Outcome })
		h.press(input.Key('1' + rune(i)))
	}
	h.write(d.Value.String())
	h.press(input.Enter)
}

func (h *keyHand) decision(view workshop.StepView, d workshop.Draft) {
	switch x := view.(type) {
	case *workshop.OrderStep:
		h.tabTo("Nothing has to come")
		h.press(input.Enter)
	case *workshop.DecideStep:
		i := slices.IndexFunc(x.Choices, func(c workshop.ChoiceView) bool { return c.ID == d.Outcome })
		h.press(input.Key('1' + rune(i)))
		if d.Reason == "" {
			h.letter('f')
			return
		}
		h.tabTo("Reason")
		h.write(d.Reason)
		h.press(input.Enter)
	}
}

func (h *keyHand) order(view workshop.StepView) {
	x := view.(*workshop.OrderStep)
	if x.Last.Awaited > 0 {
		h.letter('h')
		return
	}
	if slices.ContainsFunc(x.Groups, func(g workshop.PartsGroup) bool {
		return slices.ContainsFunc(g.Lines, func(l workshop.PartLine) bool { return l.Supplier != "" })
	}) {
		h.press('1')
		return
	}
	h.tabTo("These ", "comes from")
	h.write("Ferry stores")
	h.press(input.Enter)
}

// tabTo goes on by Tab until the hand is at a control that begins with these words.
func (h *keyHand) tabTo(words ...string) {
	at := `words => { const e = document.activeElement; const said = (e.labels?.[0]?.innerText ?? e.getAttribute('aria-label') ?? e.innerText ?? '').trim(); return words.some(w => said.startsWith(w) || said.endsWith(w)) }`
	for range 25 {
		if h.MustEval(at, words).Bool() {
			return
		}
		h.press(input.Tab)
	}
	h.fail("Tab to "+words[0], errors.New("it is not within 25"))
}

var machinery = regexp.MustCompile(`\b(sheet|figures|steps|record)\.[a-z]|\w\[\d+\]|\b[a-z]+_[a-z]|undefined|NaN|\[object|cannot say anything here|null\b`)

// readAll reads the whole screen: no path, key or id of the program stands there.
func (h *keyHand) readAll(step string) {
	said := h.MustEval(`() => {
		const all = [document.title, document.body.innerText];
		for (const e of document.querySelectorAll('[aria-label], [title], [placeholder], [alt]'))
			for (const a of ['aria-label', 'title', 'placeholder', 'alt']) if (e.getAttribute(a)) all.push(e.getAttribute(a));
		for (const e of document.querySelectorAll('svg text, svg title, option, .sr-only')) all.push(e.textContent);
		return all.join('\n');
	}`).String()
	for _, line := range strings.Split(said, "\n") {
		if bad := cmp.Or(machinery.FindString(line), h.read.FindString(line)); bad != "" {
			h.found = append(h.found, fmt.Sprintf("%s: %q in %q", step, bad, strings.TrimSpace(line)))
		}
	}
}

// idsOf a plan that are no words: with a hyphen, and not what a person would write.
func (h *keyHand) idsOf(c book.Copy) {
	add := func(id string) {
		if strings.Contains(id, "-") && id != "sign-off" && !slices.Contains(h.ours, id) {
			h.ours = append(h.ours, id)
		}
	}
	for _, st := range c.Route.Stations {
		for _, s := range st.Steps {
			add(s.ID)
			for _, i := range s.Items {
				add(i.ID)
				for _, o := range i.Outcomes {
					add(o.ID)
				}
			}
			for _, o := range s.Choices {
				add(o.ID)
			}
			if s.Measure != nil {
				add(s.Measure.Calc)
			}
			for _, w := range s.Weighs {
				add(w.Calc)
			}
		}
	}
	for _, stack := range c.Sheet.Stacks {
		for _, p := range stack {
			add(p.ID)
		}
	}
}

// A shop that knows nothing of the units goes with each from complaint to
// hand-over by keys alone.
func TestAnOwnShopWithNothingKnown(t *testing.T) {
	p, way := fresh(t)
	lead := browser.Visit(way)
	lead.base = p.Base
	lead.opensTheShop("Slipway garage", "Tove Lind", "tove", Password)
	for unit, route := range map[string]string{
		"gearbox": "gearbox-longitudinal", "rear axle": "axle-ring-pinion", "clutch": "clutch-hydraulic",
		"transfer case": "transfer-case-dog", "linkage": "shift-linkage",
	} {
		t.Run(unit, func(t *testing.T) {
			t.Parallel()
			h := &keyHand{Person: browser.SignIn(p.Base, "tove"), read: regexp.MustCompile(`\b\B`)} // nothing is known yet
			defer func() {
				if failed := recover(); failed != nil {
					t.Errorf("%v", failed)
				}
				slices.Sort(h.found)
				assert.Empty(t, strings.Join(slices.Compact(h.found), "\n"))
				h.MustClose()
			}()
			h.takesIn(unit, route)
			h.rebuild = strings.Join(strings.Split(h.MustInfo().URL, "/")[3:5], "/")
			h.rebuild = "/" + h.rebuild
			h.leaves = map[string]string{"linkage": "interfaces"}[unit]
			h.idsOf(h.planOf())
			h.read = regexp.MustCompile(`(^|[^\w-])(` + strings.Join(h.ours, "|") + `)($|[^\w-])`)
			h.through(t)
			h.readsAround()
		})
	}
}

// readsAround reads the pages beside the steps.
func (h *keyHand) readsAround() {
	var sheet workshop.Sheet
	h.read200("/api/v1"+h.rebuild, &sheet)
	r := sheet.Rebuild
	for _, page := range []string{
		"/records/" + r.ID, "/trays/" + r.ID, "/costs/" + r.ID, "/units/" + r.Unit.ID, "/customers/" + r.Whose.Customer,
		"/", "/shop", "/drawers", "/gauges", "/account", "/sheets", "/sheets/" + h.planOf().Sheet.ID, "/routes",
	} {
		h.Go(page)
		h.wait("what "+page+" says", `() => document.querySelector('main').innerText.length > 40`)
		h.readAll(page)
	}
}

// takesIn takes in a unit that nobody knows, of somebody who was never here.
func (h *keyHand) takesIn(unit, route string) {
	h.Go("/")
	h.letter('o')
	h.See("Who, what, why, until when")
	h.Type("Customer", "Nora Quill "+unit)
	h.See("Somebody new:")
	h.press(input.Enter)
	h.focused("Name")
	h.press(input.Enter)
	h.focused("Vehicle")
	h.write("Lorry with a " + unit)
	h.See("“Lorry with a")
	h.press(input.Enter)
	h.focused("Vehicle, as one calls it")
	h.press(input.Enter)
	h.See("Now at")
	h.Type("Unit", "Grim "+unit)
	h.See("“Grim")
	h.press(input.Enter)
	h.focused("Unit, its family")
	kind := h.MustEval(`async route => (await (await fetch('/api/v1/routes')).json()).routes.find(r => r.id === route).kind`, route).String()
	if unit != "linkage" { // whose plate is gone
		h.Type("Serial number", "GR "+unit)
	}
	h.click("the kind", `kind => [...document.querySelectorAll('[role=radio]')].find(r => r.value === kind)`, kind)
	if h.MustEval(`async ([route, kind]) => (await (await fetch('/api/v1/routes')).json()).routes.filter(r => r.kind === kind && !r.unused).length > 1`, []string{route, kind}).Bool() {
		h.Choose(route)
	}
	h.Press("Add the unit")
	h.Type("Complaint, in the customer's words", "It howls above 40.")
	h.Field("Promised for")
	h.click("a day to promise", `() => [...document.querySelectorAll("aside button[aria-pressed]")].at(-1)`)
	h.readAll("intake")
	h.Press("Open the rebuild")
	h.wait("the rebuild", `() => location.pathname.startsWith('/rebuilds/')`)
}

func (h *keyHand) planOf() (c book.Copy) {
	var sheet workshop.Sheet
	h.read200("/api/v1"+h.rebuild, &sheet)
	h.read200("/api/v1/plans/"+sheet.Rebuild.PlanHash, &c)
	return c
}
