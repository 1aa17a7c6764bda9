package workshop

import (
	"fmt"
	"slices"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
)

// Record is a rebuild in words, as it is read aloud, printed and signed.
type Record struct {
	Rebuild  Rebuild         `json:"rebuild"`
	Sheet    string          `json:"sheet"` // the spec sheet worked to
	Stations []RecordStation `json:"stations"`
	Handover []string        `json:"handover"`
	Found    []FoundLine     `json:"found"` // along the way, the gravest first
	Summary  Summary         `json:"summary"`
	SignedBy string          `json:"signed_by,omitempty"`
	SignedAt *time.Time      `json:"signed_at,omitempty"`
	// Checkpoint is the signed head of the log when this was written out; it
	// proves later that the record is still there as it was.
	Checkpoint string `json:"checkpoint,omitempty"`
}

// RecordStation is one station with what was done there.
type RecordStation struct {
	Title string       `json:"title"`
	Steps []RecordStep `json:"steps"`
}

// RecordStep is one step with its lines.
type RecordStep struct {
	ID     string            `json:"id"`
	Title  string            `json:"title"`
	Kind   book.Kind         `json:"kind"`
	Status Status            `json:"status"`
	Lines  []RecordLine      `json:"lines"`
	Final  metrology.Verdict `json:"verdict,omitempty"`
	Wrench *WrenchTable      `json:"wrench,omitempty"` // readings of a wrench that stand
}

// RecordLine is one entry in words. Struck ones stay readable.
type RecordLine struct {
	Says    string            `json:"says"`
	By      string            `json:"by"`
	At      time.Time         `json:"at"`
	Verdict metrology.Verdict `json:"verdict,omitempty"`
	Struck  bool              `json:"struck,omitempty"`
	Photo   string            `json:"photo,omitempty"`
	Method  string            `json:"method,omitempty"`
	Wrench  bool              `json:"wrench,omitempty"` // it stands in the table of the wrench's readings
	// Paper is what the customer's paper says of it: without what the house pays
	// and reckons with. Empty, it is left out there.
	Paper string `json:"-"`
}

// MakeRecord puts a record into words.
func MakeRecord(l Ledger) Record {
	s := l.State()
	rec := Record{
		Rebuild: l.Rebuild, Sheet: fmt.Sprintf("%s, version %d", l.State().on.sheet.Family, l.State().on.sheet.Version),
		Handover: []string{}, Found: s.found(), Summary: s.summary(),
	}
	for _, st := range l.Plan.Route.Stations {
		station := RecordStation{Title: st.Title, Steps: []RecordStep{}}
		for _, step := range st.Steps {
			step, _ := l.Plan.Step(step.ID)
			status, _ := s.Status(step)
			rs := RecordStep{
				ID: step.ID, Title: step.Title, Kind: step.Kind, Status: status, Lines: []RecordLine{}, Final: s.lastVerdict(step),
				Wrench: s.wrenchTable(step),
			}
			for _, i := range s.of(step).all {
				rs.Lines = append(rs.Lines, s.line(step, i))
			}
			station.Steps = append(station.Steps, rs)
			rec.Handover = append(rec.Handover, step.Handover...)
			if e, ok := s.of(step).has(ActDecision, Place{}); ok && step.Role == string(Lead) && status == Done {
				rec.SignedBy, rec.SignedAt = e.By.Name, &e.At
			}
		}
		rec.Stations = append(rec.Stations, station)
	}
	return rec
}

func (s *State) line(step *Step, i int32) RecordLine {
	e := s.entries[i]
	return RecordLine{
		Says: s.words(step, &e), Paper: s.paperWords(step, e), By: e.By.Name, At: e.At, Verdict: e.Verdict,
		Struck: s.by[i] > 0, Photo: e.Said().Photo,
		Method: e.Method, Wrench: e.Act == ActTorqued && s.by[i] == 0,
	}
}

// houseFigures are of money that is no matter of the customer's paper.
var houseFigures = []string{"ways", "singles", "kits", "figures.cans", "figures.cost-per-day", "figures.hourly-rate"}

// paperWords are the words of an entry for the customer's paper.
func (s *State) paperWords(step *Step, e Entry) string {
	switch e.Act {
	case ActWays, ActTime:
		return ""
	case ActFigure:
		if slices.Contains(houseFigures, e.Item.Name) {
			return ""
		}
	case ActWanted, ActOrdered, ActCame:
		said := e.Said()
		said.Lines = slices.Clone(said.Lines)
		for i := range said.Lines {
			said.Lines[i].Price, said.Lines[i].Deposit = nil, nil
		}
		e.said = &said
	}
	return s.words(step, &e)
}
