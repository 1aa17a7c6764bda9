package stack

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// The parts of a stack, folded from what was said of them at its steps.

// StackPart is one part of a stack with all that was done with it.
type StackPart struct {
	book.Part
	Extra    bool       `json:"extra,omitempty"` // not on the plan: found there
	Removed  string     `json:"removed,omitempty"`
	Tray     string     `json:"tray,omitempty"`
	Seen     string     `json:"seen,omitempty"` // the direction as it was found
	Photo    string     `json:"photo,omitempty"`
	Mark     string     `json:"mark,omitempty"`
	Damage   string     `json:"damage,omitempty"`
	Measured string     `json:"measured,omitempty"` // as it came out, as it was written
	Behind   string     `json:"behind,omitempty"`   // it was moved there in the row
	Verdict  string     `json:"verdict,omitempty"`
	Reason   string     `json:"reason,omitempty"`
	Work     string     `json:"work,omitempty"` // how it is reworked
	Wear     *acts.Wear `json:"wear,omitempty"` // what was measured of it
	Fitted   string     `json:"fitted,omitempty"`
	NotFound bool       `json:"not_found,omitempty"`
	None     bool       `json:"none,omitempty"` // this unit has none
	// Answers are what can be said of the part at this step; Usual is what is
	// said of it by rule.
	Answers []record.Answer `json:"answers"`
	Usual   string          `json:"usual,omitempty"`
	// Says is all that was done with it, in words.
	Says string `json:"says"`
}

// Stack lists the parts of the stack a step works on, in the order they came
// off, those still on after them; what inspection and fitting said is joined in.
func Stack(s *record.State, step *record.Step) []StackPart {
	removal := removalOf(s, step)
	parts := listRemoved(s, removal)
	index := map[record.Place]int{}
	for i, p := range parts {
		index[record.ReadPlace(p.ID)] = i
	}
	for _, other := range s.Plan.Steps {
		if other.Kind != book.Stack || other.Of != removal.ID {
			continue
		}
		st := s.At(other)
		for e := range st.Each(st.Live) {
			i, ok := index[e.Item]
			if !ok {
				continue
			}
			switch said := e.ReadAct().(type) {
			case *acts.Verdict:
				parts[i].None = parts[i].None || said.Outcome == partNone
				parts[i].Verdict, parts[i].Reason, parts[i].Work, parts[i].Wear = said.Outcome, said.Reason, said.Work, said.Wear
			case *acts.Fitted:
				parts[i].Fitted = said.Outcome
			}
		}
	}
	return parts
}

// packPrefix begins the ids of packs that go in with the parts.
const packPrefix = "pack-"

// withPacks adds the packs that were fitted from a drawer before a build, to be
// ticked in like parts: the last in, outermost of all.
func withPacks(s *record.State, step *record.Step, parts []StackPart) []StackPart {
	if step.Work != book.Fit {
		return parts
	}
	packs := []StackPart{}
	for _, x := range packsFor(s, step) {
		trials := measure.Trials(s, x)
		last := trials[len(trials)-1]
		p := StackPart{
			Part: book.Part{
				ID: packPrefix + x.ID, Name: "Pack " + last.Sum.String() + ", " + record.PackWords(last.Pack),
				Shape: "washer",
			},
			Extra: true, Removed: PartRemoved,
		}
		if e, ok := s.At(step).Has(acts.Fitted{}, record.ReadPlace(p.ID)); ok {
			p.Fitted = acts.OutcomeOf(e.ReadAct())
		}
		packs = append(packs, p)
	}
	return append(packs, parts...)
}

// packsFor are the measurements whose pack goes in at a build: those since the
// build before it that fitted one.
func packsFor(s *record.State, build *record.Step) (list []*record.Step) {
	for _, x := range s.Plan.Steps[:build.At] {
		switch {
		case x.Kind == book.Stack && x.Work == book.Fit:
			list = nil
		case x.Measure != nil && x.Measure.Drawer != "":
			trials := measure.Trials(s, x)
			if len(trials[len(trials)-1].Pack) > 0 {
				list = append(list, x)
			}
		}
	}
	return list
}

// listRemoved lists what came off in order, then what is still on.
func listRemoved(s *record.State, removal *record.Step) []StackPart {
	var parts []StackPart
	planned := make(map[string]int, len(removal.Parts))
	for i, p := range removal.Parts {
		planned[p.ID] = i
	}
	st := s.At(removal)
	for e := range st.Each(st.Live) {
		said, is := e.ReadAct().(*acts.Removed)
		if !is {
			continue
		}
		part := StackPart{
			Removed: said.Outcome, Tray: said.Tray, Seen: said.Faces, Photo: said.Photo,
			NotFound: said.Outcome == partNotFound,
			None:     said.Outcome == partNone,
			Mark:     said.Mark, Damage: said.Damage, Behind: said.Behind,
		}
		if said.Value.IsSaid() {
			part.Measured = said.Words()
		}
		if i, ok := planned[e.Item.String()]; ok {
			part.Part = removal.Parts[i]
		} else {
			part.Part, part.Extra = book.Part{ID: e.Item.String(), Name: said.PartName, Faces: said.Faces,
				Shaft: said.Shaft}, true
		}
		part.Bolts = cmp.Or(said.Bolts, part.Bolts)
		parts = append(parts, part)
	}
	// A corrected entry stands later in the record than where the part came
	// off; the plan's order puts it back.
	at := func(p StackPart) int {
		if i, ok := planned[p.ID]; ok {
			return i
		}
		return len(removal.Parts)
	}
	slices.SortStableFunc(parts, func(a, b StackPart) int { return at(a) - at(b) })
	for _, p := range parts {
		delete(planned, p.ID)
	}
	for _, p := range removal.Parts {
		if _, on := planned[p.ID]; on {
			parts = append(parts, StackPart{Part: p})
		}
	}
	for i := range parts {
		parts[i].Rule = parts[i].WhyRenewed()
	}
	return inRow(parts)
}

// atFront puts a part in front of all others.
const atFront = "-"

// inRow puts parts behind those somebody said they lay behind.
func inRow(parts []StackPart) []StackPart {
	for _, p := range slices.Clone(parts) {
		at := func(id string) int { return slices.IndexFunc(parts, func(x StackPart) bool { return x.ID == id }) }
		if p.Behind == "" || (p.Behind != atFront && at(p.Behind) < 0) {
			continue
		}
		i := at(p.ID)
		parts = slices.Delete(parts, i, i+1)
		parts = slices.Insert(parts, at(p.Behind)+1, p) // none, in front of all, is at -1
	}
	return parts
}

// CameOff are the parts as they really came off, one after the other, with the
// way they faced; those found there get a name of their own.
func CameOff(s *record.State, removal *record.Step) []book.Part {
	first := map[record.Place]int{}
	st := s.At(removal)
	for e := range st.Each(st.Live) {
		if e.Is(acts.Removed{}) {
			first[e.Item] = FirstSaid(s, *e).Seq
		}
	}
	parts := slices.DeleteFunc(listRemoved(s, removal),
		func(p StackPart) bool { return p.NotFound || p.None || first[record.ReadPlace(p.ID)] == 0 })
	slices.SortStableFunc(
		parts, func(a, b StackPart) int { return first[record.ReadPlace(a.ID)] - first[record.ReadPlace(b.ID)] },
	)
	var list []book.Part
	for _, p := range inRow(parts) {
		part := p.Part
		if p.Extra {
			part.ID = "own-" + strings.TrimPrefix(part.ID, foundPrefix)
		} else if p.Seen != "" {
			part.Faces = p.Seen
		}
		list = append(list, part)
	}
	return list
}

// FirstSaid is the entry that an entry corrects, from the first on.
func FirstSaid(s *record.State, e record.Entry) record.Entry {
	for e.Supersedes != "" {
		i := slices.IndexFunc(s.Entries, func(x record.Entry) bool { return x.ID == e.Supersedes })
		if i < 0 {
			break
		}
		e = s.Entries[i]
	}
	return e
}

// Words says what was done with a part so far.
func (p StackPart) Words() string {
	var did []string
	switch {
	case p.None:
		return "this one has none"
	case p.NotFound:
		did = append(did, "missing")
	case p.Removed != "":
		did = append(did, "off")
	}
	if p.Measured != "" {
		did = append(did, p.Measured)
	}
	if p.Damage != "" {
		did = append(did, p.Damage)
	}
	if p.Verdict != "" && !(p.NotFound && p.Verdict == partNotFound) { // that is said already
		did = append(did, verdictWords(&acts.Verdict{Outcome: p.Verdict, Work: p.Work, Wear: p.Wear}))
	}
	if p.Verdict != "" && p.Reason != "" {
		did = append(did, p.Reason)
	}
	switch p.Fitted {
	case partFitted:
		did = append(did, "in")
	case partLeftOut:
		did = append(did, "left out")
	}
	return strings.Join(did, ", ")
}

// packsBefore are the measurements whose packs go in at a build.
func packsBefore(p *record.Plan, build *record.Step) (list []*record.Step) {
	if build.Work != book.Fit {
		return nil
	}
	for _, x := range p.Steps[:build.At] {
		if x.Measure != nil && x.Measure.Drawer != "" {
			list = append(list, x)
		}
	}
	return list
}

// buysParts are the parts of a stack that have to come; what is looked at is not
// all known before every part has its verdict.
func buysParts(s *record.State, step *record.Step) (list []record.ToBuy, all bool) {
	if step.Work == book.Inspect {
		return nil, record.Needs(s, step).IsMet()
	}
	if step.Work != book.Remove {
		return nil, true
	}
	back := FindFitted(s, step)
	for _, x := range Stack(s, step) {
		if x.None {
			continue
		}
		b := record.ToBuy{
			Line: step.ID + "." + x.ID, Name: x.Name, Pieces: x.Count(), Part: x.ID, Fitted: back[x.ID], Why: x.Reason,
			Asked: x.Verdict == PartReplace || x.Verdict == partNotFound || (x.Once && x.Verdict == ""),
		}
		switch {
		case b.Why == "" && x.Wear != nil && x.Wear.Says != "":
			b.Why = x.Wear.Says
		case b.Why == "" && x.NotFound:
			b.Why = "missing"
		case b.Why == "" && x.Once:
			b.Why = "always replaced: " + x.Rule
		}
		list = append(list, b)
	}
	return list, true
}

// sumsParts says what was wrong with the parts of a stack, and which are new.
func sumsParts(s *record.State, step *record.Step, sum *record.Summary) {
	if step.Work != book.Remove {
		return
	}
	var renewed []string
	for _, p := range Stack(s, step) {
		if p.Verdict == PartReplace && p.Fitted == partFitted {
			renewed = append(renewed, say.Lower(p.Name))
		}
		if p.Reason != "" && p.Verdict != "" && p.Verdict != PartReuse && !p.Once {
			sum.Found = append(sum.Found, p.Name+": "+p.Reason)
		}
		if p.NotFound {
			sum.Found = append(sum.Found, p.Name+": missing")
		}
	}
	if len(renewed) > 0 {
		sum.Fitted = append(sum.Fitted, "New: "+strings.Join(renewed, ", "))
	}
}

// FindFitted are the parts of a stack that are back in.
func FindFitted(s *record.State, removal *record.Step) map[string]bool {
	back := map[string]bool{}
	for _, step := range s.Plan.Steps {
		if step.Kind != book.Stack || step.Work != book.Fit || step.Of != removal.ID {
			continue
		}
		for _, p := range Stack(s, step) {
			back[p.ID] = back[p.ID] || p.Fitted != ""
		}
	}
	return back
}
