package record

import (
	"fmt"
	"strings"

	"handwerk/workshop/acts"
	"handwerk/workshop/say"
)

// NeedWords says what a step still asks for; nothing when it is done.
func NeedWords(s *State, step *Step, n Need) string {
	if says, ok := plainNeeds[n.What]; ok {
		return says
	}
	switch n.What {
	case Steps:
		return "do first: " + Titles(s, n.Names)
	case Acknowledged:
		return "acknowledge: " + cautionTitles(s, n.Names)
	case Lines:
		return say.CountOf(n.Count, "line", "lines")
	case Parts:
		return say.CountOf(n.Count, "part", "parts")
	case Figures:
		return say.CountOf(n.Count, "figure", "figures")
	case SheetFigures:
		return "the spec sheet does not say: " + say.ListOf(n.Names,
			func(path string) string { return s.Plan.FigureCalled(path, step) })
	case Readings:
		return say.CountOf(n.Count, "reading", "readings")
	case BoltReadings:
		return say.CountOf(n.Count, "bolt reading", "bolt readings")
	case Differs:
		return step.lineText(n.Place) + ": different from before"
	case BadAnswer:
		return n.Names[0] + ". Put it right and answer again, or say why you accept it"
	case MeasuredAgain:
		return Titles(s, n.Names) + " has changed since: measure again"
	case BoltOnSetting:
		return fmt.Sprintf("bolt %d in pass %d reads off its setting", n.Place.Bolt, n.Place.Pass)
	case ClockOver:
		return "wait until " + say.Moment(n.Until, s.Zone)
	case PartsToOrder:
		return say.Several(n.Count, "part", "parts") + " to order"
	case PartsAwaited:
		return awaitedWords(n)
	case PartsLooked:
		return "do first: " + Titles(s, n.Names)
	case WhatItWaitsFor:
		return strings.TrimSpace(strings.Join(n.Names, ": "))
	}
	return ""
}

// plainNeeds are those that are the same everywhere.
var plainNeeds = map[Missing]string{
	Nothing:       "",
	OneLine:       "at least one line",
	Reckoning:     "record the result",
	Decisive:      "undecided: take more readings, or use a finer gauge",
	AnotherPack:   "fit another pack and measure again",
	Mended:        "put it right and measure again",
	CheckRound:    "do the check round",
	FluidIn:       "choose fluid and quantity",
	RightQuantity: "quantity outside the spec sheet: correct it",
	ClockStarted:  "start the clock",
	Decided:       "decide",
	AgreedAgain:   "get the customer's approval for this decision",
	Pictured:      "take a picture",
	PartsSaid:     "list the parts needed, or say none are",
}

// Titles names steps.
func Titles(s *State, ids []string) string { return strings.Join(titleList(s, ids), ", ") }

func titleList(s *State, ids []string) []string {
	titles := make([]string, 0, len(ids))
	for _, id := range ids {
		step, _ := s.Plan.Step(id)
		titles = append(titles, step.Title)
	}
	return titles
}

func cautionTitles(s *State, ids []string) string {
	return say.ListOf(ids, func(id string) string {
		c, _ := s.Plan.Caution(id)
		return c.Title
	})
}

// Words says what an entry did.
func Words(s *State, step *Step, e *Entry) string {
	a := step.act(e.Act)
	if a == nil { // of a record put together by hand
		return string(e.Act)
	}
	return withRemarks(e, a.Says(s, step, e))
}

// PaperWords say what an entry did for the customer's paper; empty where it stands on none.
func PaperWords(s *State, step *Step, e *Entry) string {
	a := step.act(e.Act)
	if a == nil || a.Paper == nil {
		return Words(s, step, e)
	}
	says := a.Paper(s, step, e)
	if says == "" {
		return ""
	}
	return withRemarks(e, says)
}

// withRemarks adds that it was corrected, and what was written with it.
func withRemarks(e *Entry, says string) string {
	if e.Is(acts.Strike{}) {
		return says
	}
	if e.Supersedes != "" {
		says += " (corrected)"
	}
	if note := acts.NoteOf(e.ReadAct()); note != "" && !e.Is(acts.Note{}) {
		says += ": " + note
	}
	return says
}

// PackWords says a pack: "1 × 0.52 mm + 2 × 0.1 mm".
func PackWords(pack []acts.Piece) string {
	if len(pack) == 0 {
		return "no shim"
	}
	var words []string
	for i, p := range pack {
		if i > 0 && pack[i-1].Thickness.String() == p.Thickness.String() {
			continue
		}
		n := 0
		for _, same := range pack[i:] {
			if same.Thickness.String() == p.Thickness.String() {
				n += int(same.Count)
			}
		}
		words = append(words, fmt.Sprintf("%d × %s", n, p.Thickness))
	}
	return strings.Join(words, " + ")
}
