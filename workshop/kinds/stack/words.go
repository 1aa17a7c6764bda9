package stack

import (
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
)

func verdictSaid(s *record.State, step *record.Step, e *record.Entry) string {
	said := record.As[acts.Verdict](e)
	return record.WithReason(partName(s, step, e.Item)+": "+verdictWords(said), said)
}

func fittedWords(s *record.State, step *record.Step, e *record.Entry) string {
	name, said := partName(s, step, e.Item), record.As[acts.Fitted](e)
	if said.Outcome == partLeftOut {
		return record.WithReason(name+" left out", said)
	}
	return name + " in"
}

func removedWords(s *record.State, step *record.Step, e *record.Entry) string {
	name, b := partName(s, step, e.Item), record.As[acts.Removed](e)
	switch b.Outcome {
	case partNotFound:
		return name + ": missing, it must be there"
	case partNone:
		return name + ": this one has none"
	}
	words := name + " off"
	if b.Faces != "" {
		words += ", " + b.Faces
	}
	if b.Tray != "" {
		words += ", " + b.Tray
	}
	if b.Mark != "" {
		words += ", marked " + b.Mark
	}
	if b.Value.IsSaid() {
		words += ", " + b.Words()
	}
	if b.Bolts != "" {
		words += ", held by " + b.Bolts
	}
	if b.Damage != "" {
		words += ", damaged: " + b.Damage
	}
	return words
}

// partName is what a part is called, without folding the stack it lies in: a
// long record asks for as many names as it has entries.
func partName(s *record.State, step *record.Step, at record.Place) string {
	removal, id := removalOf(s, step), at.String()
	if i := slices.IndexFunc(removal.Parts, func(p book.Part) bool { return p.ID == id }); i >= 0 {
		return removal.Parts[i].Name
	}
	if said, _ := record.FindAct[acts.Removed](s, removal, at); said != nil {
		return said.PartName
	}
	if of, ok := s.Plan.ByID[strings.TrimPrefix(id, packPrefix)]; ok && of.Measure != nil &&
		strings.HasPrefix(id, packPrefix) {
		trials := measure.Trials(s, of)
		return "Pack " + trials[len(trials)-1].Sum.String()
	}
	return id
}
