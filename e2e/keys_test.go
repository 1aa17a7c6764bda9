package e2e

import (
	"errors"
	"fmt"
	"regexp"
	"slices"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/decide"
	"handwerk/workshop/kinds/fill"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

// keyHand works at a rebuild by keys alone, as the screen leads it, and reads
// all that stands there.
type keyHand struct {
	*Person
	rebuild string   // its path
	leaves  string   // a step that this job does not need
	knows   bool     // the mechanic has the limits
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
		if view.Frame().Status == record.Done {
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
	h.Press("Step not needed")
	h.focused("Not needed, because")
	h.write("the old ones go back")
	h.Recording("that it is not needed", func() { h.press(input.Enter) })
	h.See("Needed after all")
	h.inHand(step, "leaving it away")
}

// firstOpen is the step the work is at; none when it is handed over.
func (h *keyHand) firstOpen() string {
	sheet := h.sheetOf(h.rebuild)
	i := slices.IndexFunc(sheet.Steps, func(s record.StepStatus) bool {
		return s.Status == record.Open ||
			s.Status == record.Held
	})
	if i < 0 {
		return ""
	}
	return sheet.Steps[i].ID
}

// act does the next thing at a step by its keys, and waits until it is on record.
func (h *keyHand) act(step string, view record.StepView) {
	d := kinds.Plausible(view)
	before := len(view.Frame().Entries)
	h.drawn(before)
	h.keys(step, view, d)
	if d.Says.Name() == (acts.Decision{}).Name() && view.Frame().Step.Role == string(people.Lead) {
		h.proves("tove")
	}
	for until := time.Now().Add(time.Minute); len(h.step(h.rebuild,
		step).Frame().Entries) <= before; time.Sleep(20 * time.Millisecond) {
		if time.Now().After(until) {
			h.fail(fmt.Sprintf("%s: %s of %s", step, d.Says.Name(), d.Item), errors.New("nothing new is on record"))
		}
	}
	h.inHand(step, string(d.Says.Name())+" of "+d.Item.String())
}

// drawn gives the page time to draw what is on record already: nobody presses the key
// of a button he does not see yet.
func (h *keyHand) drawn(entries int) {
	if entries == 0 {
		return
	}
	h.MustEval(`async n => {
		for (let i = 0; i < 100 && !document.body.innerText.includes(n + (n === 1 ? ' entry' : ' entries') + ' recorded'); i++)
			await new Promise(go => setTimeout(go, 25));
	}`, entries)
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
	if h.MustEval(`() => document.activeElement.matches('input:not([type=radio]):not([type=checkbox]), textarea')`).
		Bool() {
		h.KeyActions().Press(input.AltLeft).Type(key).MustDo()
		return
	}
	h.press(key)
}

func (h *keyHand) write(text string) { h.MustInsertText(text) }

// types writes where the hand is, and takes it.
func (h *keyHand) types(text string) {
	h.write(text)
	h.press(input.Enter)
}

// says goes to a field by Tab, and writes there.
func (h *keyHand) says(text string, field ...string) {
	h.wait("the field "+field[0], `words => [...document.querySelectorAll('input, textarea')].some(e => {
		const said = (e.labels?.[0]?.innerText ?? e.getAttribute('aria-label') ?? '').trim();
		return words.some(w => said.startsWith(w) || said.endsWith(w));
	})`, field) // nobody looks for what is not drawn yet
	h.tabTo(field...)
	h.types(text)
}

// number presses the figure of an answer, counted from nought.
func (h *keyHand) number(i int) { h.press(input.Key('1' + rune(i))) }

// keys are those a mechanic presses to say it.
func (h *keyHand) keys(step string, view record.StepView, d record.Draft) {
	switch said := d.Says.(type) {
	case *acts.Acknowledge:
		if _, ofStep := kinds.Acknowledging(view, record.Draft{}); !ofStep {
			h.outcome(view, d)
			return
		}
		h.letter('a')
	case *acts.Stands:
		h.tabTo("I looked", "How it was put back")
		if said.Reason != "" {
			h.write(said.Reason)
		}
		h.press(input.Enter)
	case *acts.Figure:
		h.figure(view, d)
	case *acts.Outcome:
		h.outcome(view, d)
	case *acts.Removed:
		h.letter('t')
		h.types(said.Tray)
	case *acts.Verdict:
		h.verdict(view, d)
	case *acts.Fitted, *acts.Start, *acts.Reckon:
		h.letter('f')
	case *acts.Reading:
		h.reading(view, d)
	case *acts.Torqued:
		h.types(said.Value.String())
	case *acts.Filled:
		h.filled(view, d)
	case *acts.End:
		h.says(said.Reason, "Reason to go on early")
	case *acts.Photo:
		h.says(said.Reason, "No picture because")
	case *acts.Decision:
		h.decision(view, d)
	case *acts.Accept:
		h.tabTo("Accept as it is")
		h.press(input.Enter)
		h.types(said.Reason)
	case *acts.Came:
		h.order(view)
	default:
		h.fail(fmt.Sprintf("%s: %+v", step, d), errors.New("nobody knows its keys"))
	}
}

// figure says what the spec sheet lacks, where the mechanic has it: a limit, as it
// was measured on this one.
func (h *keyHand) figure(view record.StepView, d record.Draft) {
	figures := view.Frame().Figures
	f := figures[slices.IndexFunc(figures, func(f record.FigureView) bool { return record.ReadPlace(f.Path) == d.Item })]
	if f.Grave {
		h.letter('v')
		for _, typed := range []string{"4", "10"} {
			h.write(typed)
			h.press(input.Tab)
		}
		h.types("8.8")
		return
	}
	if !h.knows || f.Shape != book.ShapeLimit || f.Unit != "mm" {
		h.letter('v')
		return
	}
	h.write("0.05")
	h.press(input.Tab)
	h.types("0.20")
	h.number(3)
	h.types("on the bench, feeler gauge")
}

func (h *keyHand) outcome(view record.StepView, d record.Draft) {
	switch view.(type) {
	case *torque.TorqueStep:
		h.letter('f')
		return
	case *decide.DecideStep:
		h.says(acts.NoteOf(d.Says), "What was done about it")
		return
	}
	// What may stay open is passed by, and the test that tells most comes first: the screen says where the hand is.
	at := h.MustEval(`() => document.querySelector('[data-current] fieldset')?.name ?? ''`).String()
	lines := view.(interface{ Lines() []items.ItemView }).Lines()
	i := slices.IndexFunc(lines, func(i items.ItemView) bool { return i.ID == at })
	if i < 0 {
		h.fail("the line in hand", errors.New("there is none"))
	}
	switch item := lines[i]; {
	case slices.ContainsFunc(item.Cautions, func(c record.CautionView) bool { return c.Grave && c.By == "" }):
		h.letter('a')
	case item.Value != "":
		h.types("58")
	default:
		h.number(max(0, slices.IndexFunc(item.Answers, func(a record.Answer) bool { return a.Good })))
	}
}

func (h *keyHand) verdict(view record.StepView, d record.Draft) {
	x := view.(*stack.StackStep)
	i := slices.IndexFunc(x.Stack, func(p stack.StackPart) bool { return record.ReadPlace(p.ID) == d.Item })
	a := slices.IndexFunc(x.Stack[i].Answers, func(a record.Answer) bool { return a.ID == acts.OutcomeOf(d.Says) })
	if acts.Reason(d.Says) != "" && x.Stack[i].Answers[a].Reason {
		h.letter('t')
		h.types(acts.Reason(d.Says))
	}
	h.number(a)
}

func (h *keyHand) reading(view record.StepView, d record.Draft) {
	x := view.(*measure.MeasureStep)
	if x.Calc == "shift-matrix" {
		h.letter('i')
		return
	}
	for _, a := range x.Asks {
		if a.ID == d.Item.Name && len(a.Choices) > 0 {
			i := slices.IndexFunc(a.Choices, func(c book.AskChoice) bool { return c.ID == acts.OutcomeOf(d.Says) })
			h.number(i)
			return
		}
	}
	h.types(acts.ValueOf(d.Says).Value.String())
}

func (h *keyHand) filled(view record.StepView, d record.Draft) {
	x := view.(*fill.FillStep)
	if x.Chosen == "" {
		i := slices.IndexFunc(x.Fluids, func(f book.Fluid) bool { return f.ID == acts.OutcomeOf(d.Says) })
		h.number(i)
	}
	h.types(acts.ValueOf(d.Says).Value.String())
}

func (h *keyHand) decision(view record.StepView, d record.Draft) {
	switch x := view.(type) {
	case *order.OrderStep:
		h.tabTo("No parts needed")
		h.press(input.Enter)
	case *decide.DecideStep:
		i := slices.IndexFunc(x.Choices, func(c decide.ChoiceView) bool { return c.ID == acts.OutcomeOf(d.Says) })
		h.number(i)
		h.letter('f')
		if acts.Reason(d.Says) != "" {
			h.focused("Reason")
			h.types(acts.Reason(d.Says))
		}
	}
}

func (h *keyHand) order(view record.StepView) {
	x := view.(*order.OrderStep)
	if x.Last.Awaited > 0 {
		h.letter('h')
		return
	}
	if slices.ContainsFunc(x.Groups, func(g order.PartsGroup) bool {
		return slices.ContainsFunc(g.Lines, func(l order.PartLine) bool { return l.Supplier != "" })
	}) {
		h.number(0)
		return
	}
	h.says("Ferry stores", "These ", "comes from")
}

// tabTo goes on by Tab until the hand is at a control that begins or ends with such words.
func (h *keyHand) tabTo(words ...string) {
	at := `words => {
		const e = document.activeElement;
		const said = (e.labels?.[0]?.innerText ?? e.getAttribute('aria-label') ?? e.innerText ?? '').trim();
		return words.some(w => said.startsWith(w) || said.endsWith(w));
	}`
	for range 25 {
		if h.MustEval(at, words).Bool() {
			return
		}
		h.press(input.Tab)
	}
	h.fail("Tab to "+words[0], errors.New("it is not within 25"))
}
