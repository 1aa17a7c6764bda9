package record

import (
	"slices"
	"time"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// Sheet is a rebuild at one glance: the order, and where every step stands.
// It is folded from the whole record but does not carry it; every open screen
// reads it again with each entry. Step and MakeRecord give the entries.
type Sheet struct {
	Rebuild Rebuild      `json:"rebuild"`
	Steps   []StepStatus `json:"steps"`
}

// StepStatus is one graduation of the rule.
type StepStatus struct {
	ID     string `json:"id"`
	Status Status `json:"status"`
	Needs  string `json:"needs,omitempty"`
}

// StepView is one step as the bench shows it: its frame, and what its kind
// adds. Each kind has one type of it, told apart by the field kind.
type StepView interface{ Frame() *StepFrame }

// StepFrame is what every step shows.
type StepFrame struct {
	Step    StepHead       `json:"step"`
	Station book.StationID `json:"station"`
	Status  Status         `json:"status"`
	Needs   string         `json:"needs,omitempty"`
	Gate    []string       `json:"gate"` // titles of what must be done before
	// Wants are how things have to stand before a hand is put to it.
	Wants    []WantView    `json:"wants,omitempty"`
	Cautions []CautionView `json:"cautions"`
	Entries  []EntryView   `json:"entries"`
	// Acts are those that the person asking may do now; corrections and strikes go
	// to the entries there are.
	Acts      []OpenAct       `json:"acts"`
	Materials []book.Material `json:"materials,omitempty"`
	// Weighed is what was worked out for the choice that is made here.
	Weighed []WeighedView `json:"weighed,omitempty"`
	// Figures are those the spec sheet lacks and the step wants, and those that
	// were said in their place.
	Figures []FigureView `json:"figures,omitempty"`
	// SheetVersion is that of the spec sheet the rebuild works to now.
	SheetVersion int `json:"sheet_version"`
	// TakenFrom are the titles of the later steps that take a figure from this one:
	// they do without it when it is not needed.
	TakenFrom []string `json:"taken_from,omitempty"`
	// NewerSheet is a later version that says something otherwise; none, 0.
	NewerSheet int `json:"newer_sheet,omitempty"`
}

// Frame is the frame itself, so that it can be asked of any view.
func (f *StepFrame) Frame() *StepFrame { return f }

// StepHead says what is to be done.
type StepHead struct {
	ID      string    `json:"id"`
	Kind    book.Kind `json:"kind"`
	Title   string    `json:"title"`
	Say     string    `json:"say"`
	Why     string    `json:"why,omitempty"`
	Role    string    `json:"role,omitempty"`
	Minutes int       `json:"minutes,omitempty"` // it takes in this shop
	Hazards bool      `json:"hazards,omitempty"` // to read its cautions is its work
}

// OpenAct is an act that can be done now.
type OpenAct struct {
	Act    acts.Name `json:"act"`
	Reason bool      `json:"reason,omitempty"` // wants one in words
}

// MayDo is an act that can be done now.
func MayDo(a acts.Act) OpenAct { return OpenAct{Act: a.Name()} }

// MayDoWhy is an act that can be done now, with a reason.
func MayDoWhy(a acts.Act) OpenAct { return OpenAct{Act: a.Name(), Reason: true} }

// EntryView is an entry with what became of it, and in words.
type EntryView struct {
	Entry
	Says         string `json:"says"`
	SupersededBy string `json:"superseded_by,omitempty"`
}

// CautionView is a caution and who acknowledged it.
type CautionView struct {
	book.Caution
	By string     `json:"by,omitempty"`
	At *time.Time `json:"at,omitempty"`
}

// Viewer is what a kind makes its view from.
type Viewer struct {
	Ledger Ledger
	State  *State
	Step   *Step
	Now    time.Time
}

// MakeSheet folds a record into its sheet.
func MakeSheet(l Ledger) Sheet {
	s := l.State()
	sheet := Sheet{Rebuild: l.Rebuild, Steps: make([]StepStatus, 0, len(l.Plan.Steps))}
	for _, step := range l.Plan.Steps {
		status, needs := s.Status(step)
		sheet.Steps = append(sheet.Steps, StepStatus{step.ID, status, NeedWords(s, step, needs)})
	}
	return sheet
}

// MakeStep is the bench of one step, for one person.
func MakeStep(l Ledger, id string, by people.Person, now time.Time) (StepView, error) {
	step, ok := l.Plan.Step(id)
	if !ok {
		return nil, say.Refuse(say.NotFound, say.NoSuchStep, id)
	}
	s := l.State()
	status, needs := s.Status(step)
	f := StepFrame{
		Step: StepHead{
			step.ID,
			step.Kind,
			step.Title,
			step.Say,
			step.Why,
			step.Role,
			step.Minutes,
			step.Rules.Hazards,
		},
		Station: step.Station,
		Status:  status,
		Needs:   NeedWords(s, step, needs),
		Gate:    titleList(s, s.listBlocking(step)),
		Entries: ViewsAt(s, step),
		Acts:    l.openTo(s, step, by, now),
	}
	f.Wants = wantsOf(s, step)
	f.Cautions, f.TakenFrom = CautionViews(l, s, step, step.Cautions), l.Plan.listTaken(step)
	f.Figures, f.SheetVersion, f.NewerSheet = figureViews(s, step), s.On.Sheet.Version, l.newerSheet(s)
	for _, x := range l.Plan.Materials {
		if slices.Contains(step.Materials, x.ID) {
			f.Materials = append(f.Materials, x)
		}
	}
	return step.Rules.View(Viewer{l, s, step, now}, f)
}

// newerSheet is the family's sheet when it says something that the rebuild does not
// work to already: one that only keeps what was said here is no news.
func (l Ledger) newerSheet(s *State) int {
	if l.SheetNow == nil {
		return 0
	}
	next, err := l.SheetNow()
	if err != nil || next.Version <= s.On.Sheet.Version ||
		len(shop.Differences(s.Plan.Glossary, s.On.Sheet, next)) == 0 {
		return 0
	}
	return next.Version
}

// CautionViews are some cautions as they stand at a step.
func CautionViews(l Ledger, s *State, step *Step, ids []string) []CautionView {
	views := []CautionView{}
	for _, id := range ids {
		caution, _ := l.Plan.Caution(id)
		v := CautionView{Caution: caution}
		if e, ok := s.At(step).Has(acts.Acknowledge{}, ReadPlace(id)); ok {
			v.By, v.At = e.By.Name, &e.At
		}
		views = append(views, v)
	}
	return views
}

// openTo lists what a person may do at a step now. Propose has the last word;
// this is the same rules asked beforehand, so that nobody is offered what
// would be refused.
func (l Ledger) openTo(s *State, step *Step, by people.Person, now time.Time) []OpenAct {
	open := []OpenAct{}
	if by.Role != people.Mechanic && by.Role != people.Lead {
		return open
	}
	open = append(open, MayDo(acts.Note{}))
	if !l.Rebuild.Place.Closed {
		open = append(open, MayDo(acts.Found{}), MayDo(acts.Time{}), MayDo(acts.Promised{}))
		if slices.ContainsFunc(cameOff(s), func(u Undone) bool { return u.Back == "" }) {
			open = append(open, MayDo(acts.Back{}))
		}
	}
	leads := step.Role == string(people.Lead)
	switch {
	case leads && by.Role != people.Lead:
		return open
	case l.Rebuild.Place.Closed && leads:
		return append(open, MayDo(acts.Strike{}))
	case l.Rebuild.Place.Closed:
		return open
	case s.IsBlocked(step):
		open = append(open, MayDoWhy(acts.Override{}), MayDo(acts.Sheet{}))
		if len(figureViews(s, step)) > 0 {
			open = append(open, MayDo(acts.Figure{}))
		}
		return open
	}
	if s.IsSkipped(step) {
		return append(open, MayDo(acts.Strike{}))
	}
	if step.maySkip() && !Needs(s, step).IsMet() {
		open = append(open, MayDoWhy(acts.Skip{}))
	}
	open = append(open, MayDo(acts.Sheet{}))
	stands := len(inTheWay(s, step)) == 0
	if !stands {
		open = append(open, MayDo(acts.Stands{}))
	}
	if len(unread(s, step, step.AllCautions(), false)) > 0 {
		open = append(open, MayDo(acts.Acknowledge{}))
	}
	if !step.Rules.Hazards && len(ListUnread(s, step, true)) > 0 {
		return open
	}
	if len(figureViews(s, step)) > 0 {
		open = append(open, MayDo(acts.Figure{}))
	}
	if open = append(open, MayDo(acts.Strike{})); !stands || len(s.waitsFor(step)) > 0 {
		return open
	}
	return append(open, step.Rules.Open(s, step, now)...)
}

// ViewsAt are all entries of a step, in words.
func ViewsAt(s *State, step *Step) []EntryView {
	views := []EntryView{}
	for _, i := range s.At(step).All {
		by, _ := s.findSuperseding(i)
		views = append(views, EntryView{s.Entries[i], Words(s, step, &s.Entries[i]), by.ID})
	}
	return views
}
