package e2e

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/stretchr/testify/assert"

	"handwerk/book"
	"handwerk/workshop/say"
)

var machinery = regexp.MustCompile(
	`\b(sheet|figures|steps|record)\.[a-z]|\w\[\d+\]|\b[a-z]+_[a-z]|\bid\b|undefined|NaN|\[object|cannot say anything here|null\b`,
)

// readAll reads the whole screen: no path, key or id of the program stands there.
func (h *keyHand) readAll(step string) {
	said := h.MustEval(`() => {
		const all = [document.title, document.body.innerText];
		for (const e of document.querySelectorAll('[aria-label], [title], [placeholder], [alt]'))
			for (const a of ['aria-label', 'title', 'placeholder', 'alt']) if (e.getAttribute(a)) all.push(e.getAttribute(a));
		for (const e of document.querySelectorAll('input:not([type=radio]), textarea')) if (e.offsetParent) all.push(e.value);
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
		if strings.Contains(id, "-") && id != "sign-off" && id != "running-in" && !slices.Contains(h.ours, id) {
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
// hand-over by keys alone; of one the mechanic has the limits.
func TestAnOwnShopWithNothingKnown(t *testing.T) {
	t.Parallel()
	p, way := fresh(t)
	lead := visit(t, way)
	lead.base = p.Base
	lead.opensTheShop("Slipway garage", "Tove Lind", "tove", Password)
	for unit, route := range map[string]string{
		"gearbox": "gearbox-longitudinal", "rear axle": "axle-ring-pinion", "clutch": "clutch-hydraulic",
		"linkage": "shift-linkage",
	} {
		t.Run(unit, func(t *testing.T) {
			t.Parallel()
			h := &keyHand{Person: signIn(t, p.Base, "tove"),
				read: regexp.MustCompile(`\b\B`)} // nothing is known yet
			defer func() {
				if failed := recover(); failed != nil {
					t.Errorf("%v", failed)
				}
				slices.Sort(h.found)
				assert.Empty(t, strings.Join(slices.Compact(h.found), "\n"))
			}()
			h.takesIn(unit, route)
			h.rebuild = strings.TrimPrefix(h.MustInfo().URL, p.Base)
			h.rebuild = h.rebuild[:len("/rebuilds/")+len(say.NewID())]
			h.leaves, h.knows = map[string]string{"linkage": "interfaces"}[unit], unit == "gearbox"
			h.idsOf(h.planOf())
			h.read = regexp.MustCompile(`(^|[^\w-])(` + strings.Join(h.ours, "|") + `)($|[^\w-])`)
			h.through(t)
			h.readsAround()
		})
	}
}

// readsAround reads the pages beside the steps.
func (h *keyHand) readsAround() {
	sheet := h.sheetOf(h.rebuild)
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
	h.Role("heading", "Who, what, why, by when")
	h.Type("Customer", "Nora Quill "+unit)
	h.Role("option", "New customer:")
	h.press(input.Enter)
	h.focused("Name")
	h.press(input.Enter)
	h.focused("Vehicle")
	h.write("Lorry with a " + unit)
	h.Role("option", "New vehicle: “Lorry with a")
	h.press(input.Enter)
	h.focused("Vehicle name, as you call it")
	h.press(input.Enter)
	h.Field("Mileage or hours")
	h.Type("Unit", "Grim "+unit)
	h.Role("option", "New kind of unit: “Grim")
	h.press(input.Enter)
	h.focused("Unit type or family")
	kind := h.MustEval(`async route => (await (await fetch('/api/v1/routes')).json()).routes.find(r => r.id === route).kind`, route).
		String()
	if unit != "linkage" { // whose plate is gone
		h.Type("Serial number", "GR "+unit)
	}
	h.click("the kind", `kind => [...document.querySelectorAll('[role=radio]')].find(r => r.value === kind)`, kind)
	if h.MustEval(
		`async ([route, kind]) => (await (await fetch('/api/v1/routes')).json()).routes.filter(r => r.kind === kind && !r.unused).length > 1`,
		[]string{route, kind},
	).Bool() {
		h.Choose(route)
	}
	h.Press("Add the unit")
	h.Type("Complaint, in the customer's words", "It howls above 40.")
	h.Field("Promised for")
	h.click("a day to promise", `() => [...document.querySelectorAll("aside button[aria-pressed]")].at(-1)`)
	h.readAll("intake")
	h.SeeNot("Still needed") // the unit may still be on its way
	h.Press("Open the rebuild")
	h.wait("the rebuild", `() => location.pathname.startsWith('/rebuilds/')`)
}

func (h *keyHand) planOf() (c book.Copy) {
	h.read200("/api/v1/plans/"+h.sheetOf(h.rebuild).Rebuild.PlanHash, &c)
	return c
}
