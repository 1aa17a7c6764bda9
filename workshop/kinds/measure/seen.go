package measure

import (
	"encoding/json"
	"strings"
	"unicode/utf8"

	"handwerk/book"
	"handwerk/core/driveline"
	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Beyond what a step asks, a driveline may be turned at any place and what it
// did put down: each such observation is an answer of its own in its trial, and
// goes to the calculator with the others.

const seen = "seen"

// takesSeen: the calculator of a step takes observations.
func takesSeen(m *book.MeasureSpec) bool { return driveline.DrivelineMethod.Is(m.Calc) }

// isSeen tells a place of a free observation: 1.seen-2.
func isSeen(at record.Place) bool { return strings.HasPrefix(at.Ask(), seen+"-") }

const (
	mostSeen      = 20 // in one trial
	mostSeenWords = 300
)

// placeSeen checks a free observation and gives it its place. What it names is
// checked by the calculator, with the rest.
func placeSeen(p *record.Attempt, t Trial, item string) error {
	said := record.Saying[acts.Reading](p)
	n := 1
	for _, e := range t.Asked {
		if digits, free := strings.CutPrefix(e.Item.Ask(), seen+"-"); free {
			n = max(n, record.ReadNumber(digits, "")+1)
		}
	}
	switch {
	case p.Old != nil:
	case item != seen:
		return input.At("item", seen, "a new observation is given its number")
	case n > mostSeen:
		return input.At("item", "up to 20 observations in a trial", "there are already 20")
	default:
		p.Draft.Item = record.Place{Trial: t.Number, Name: seen + "-" + say.Itoa(n)}
	}
	var o driveline.Observation
	if err := input.Decode(said.Figure, &o); err != nil {
		return input.Below("figure", err)
	}
	if n := utf8.RuneCountInString(o.Says); n == 0 || n > mostSeenWords || len(said.Figure) > shop.MaxFigure {
		return input.At("figure.says", "what was done and seen, up to 300 characters", "missing or too long")
	}
	if said.Value.IsSaid() || said.Outcome != "" {
		return input.At("figure", "only the observation", "an observation takes no value or outcome")
	}
	return checkSeen(p, t)
}

// checkSeen tries an observation alone on the line of the sheet, so that one of
// a shaft that is none is refused here and not when all are answered.
func checkSeen(p *record.Attempt, t Trial) error {
	in, err := p.Step.Bindings.Fill(soFar{binder{p, []Trial{t}}})
	if err != nil || in["members"] == nil {
		return err // nobody knows the line
	}
	raw, err := json.Marshal(
		map[string]any{"members": in["members"], "observations": []any{record.Saying[acts.Reading](p).Figure}},
	)
	if err != nil {
		return err
	}
	_, err = driveline.DrivelineMethod.Run(raw)
	faults := input.Below("", err)
	for i := range faults {
		faults[i].Path = strings.Replace(faults[i].Path, "observations[0]", "figure", 1)
	}
	return faults.Err()
}

// alsoSeen is a calculator's input with the free observations of the trial
// behind those the step asks for.
func (t Trial) alsoSeen(in map[string]any) (map[string]any, error) {
	var more []any
	for _, e := range t.Asked {
		if isSeen(e.Item) {
			more = append(more, record.As[acts.Reading](&e).Figure)
		}
	}
	if len(more) == 0 {
		return in, nil
	}
	var asked []json.RawMessage
	if there, ok := in["observations"]; ok {
		raw, err := json.Marshal(there)
		if err != nil {
			return nil, err
		}
		if err := json.Unmarshal(raw, &asked); err != nil {
			return nil, err
		}
	}
	all := make([]any, 0, len(asked)+len(more))
	for _, o := range asked {
		all = append(all, o)
	}
	in["observations"] = append(all, more...)
	return in, nil
}

func seenWords(b *acts.Reading) string {
	var o driveline.Observation
	_ = json.Unmarshal(b.Figure, &o) // written by this package only
	return "also seen: " + o.Says
}
