package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
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
}

// MakeRecord puts a record into words.
func MakeRecord(l Ledger) Record {
	s := l.State()
	rec := Record{Rebuild: l.Rebuild, Sheet: fmt.Sprintf("%s, version %d", l.Plan.Sheet.Family, l.Plan.Sheet.Version), Handover: []string{}}
	for _, st := range l.Plan.Route.Stations {
		station := RecordStation{Title: st.Title, Steps: []RecordStep{}}
		for _, step := range st.Steps {
			status, _ := s.Status(step.ID)
			rs := RecordStep{ID: step.ID, Title: step.Title, Kind: step.Kind, Status: status, Lines: []RecordLine{}, Final: s.lastVerdict(step.ID)}
			for _, i := range s.of(step.ID).all {
				rs.Lines = append(rs.Lines, s.line(step, i))
			}
			station.Steps = append(station.Steps, rs)
			rec.Handover = append(rec.Handover, step.Handover...)
			if e, ok := s.of(step.ID).has(ActDecision, ""); ok && step.Role == string(Lead) && status == Done {
				rec.SignedBy, rec.SignedAt = e.By.Name, &e.At
			}
		}
		rec.Stations = append(rec.Stations, station)
	}
	return rec
}

func (s *State) line(step book.Step, i int32) RecordLine {
	e := s.entries[i]
	said := e.Said()
	says := s.words(step, e, said)
	if e.Supersedes != "" && e.Act != ActStrike {
		says += " (corrected)"
	}
	if said.Note != "" && e.Act != ActNote {
		says += ": " + said.Note
	}
	return RecordLine{Says: says, By: e.By.Name, At: e.At, Verdict: e.Verdict, Struck: s.by[i] > 0, Photo: said.Photo, Method: e.Method}
}

// words says what an entry did.
func (s *State) words(step book.Step, e Entry, b Body) string {
	switch e.Act {
	case ActOutcome:
		return outcomeWords(step, e.Item, b)
	case ActRemoved:
		return s.removedWords(step, e.Item, b)
	case ActVerdict:
		return withReason(s.partName(step, e.Item)+": "+strings.ReplaceAll(b.Outcome, "-", " "), b)
	case ActFitted:
		if b.Outcome == partLeftOut {
			return withReason(s.partName(step, e.Item)+" left out", b)
		}
		return s.partName(step, e.Item) + " in"
	case ActReading:
		words := readingWords(step, e.Item, b)
		if i, ok := s.plan.Instrument(b.Instrument); ok {
			words += ", " + i.Name
		}
		if says := saysOf(e.Result); says != "" && askOf(e.Item) != "" {
			words += "; " + says // of the figure that completed the trial
		}
		return words
	case ActFit:
		return "fitted " + PackWords(b.Pack)
	case ActAgain:
		return withReason("changed, to be measured again", b)
	case ActReckon:
		if says := saysOf(e.Result); says != "" {
			return "worked out: " + says
		}
		return "worked out"
	case ActAccept:
		return withReason("accepted as it is", b)
	case ActTorqued:
		return fmt.Sprintf("pass %d, bolt %d: %s", b.Pass, b.Bolt, b.valueWords())
	case ActFilled:
		return b.valueWords() + ", " + fluidClass(step, b.Outcome)
	case ActStart:
		return "clock started: " + named(step.Schools, b.Outcome, func(x book.School) (string, string) { return x.ID, x.Title })
	case ActEnd:
		return withReason("clock over", b)
	case ActDecision:
		return withReason(named(step.Choices, b.Outcome, func(x book.Choice) (string, string) { return x.ID, x.Text }), b)
	}
	return s.commonWords(e, b)
}

// readingWords says a reading, or the answer to what was asked.
func readingWords(step book.Step, item string, b Body) string {
	ask := askOf(item)
	if step.Measure != nil {
		for _, a := range step.Measure.Asks {
			if a.ID != ask {
				continue
			}
			if len(a.Choices) == 0 {
				return a.Text + ": " + b.valueWords()
			}
			return a.Text + ": " + named(a.Choices, b.Outcome, func(x book.AskChoice) (string, string) { return x.ID, x.Text })
		}
	}
	return "read " + b.valueWords()
}

// saysOf is what a result says of itself.
func saysOf(result json.RawMessage) string {
	var x struct {
		Says string `json:"says"`
	}
	_ = json.Unmarshal(result, &x) // no result says nothing
	return x.Says
}

// named finds the text of an id; an imported record may hold one that the
// list does not, and then the id itself must do.
func named[T any](list []T, id string, of func(T) (id, text string)) string {
	for _, x := range list {
		if i, text := of(x); i == id {
			return text
		}
	}
	return id
}

func fluidClass(step book.Step, id string) string {
	if step.Fill == nil {
		return id
	}
	return named(step.Fill.Fluids, id, func(f book.Fluid) (string, string) { return f.ID, f.Class })
}

// commonWords are those of acts that every step takes.
func (s *State) commonWords(e Entry, b Body) string {
	switch e.Act {
	case ActAcknowledge:
		c, _ := s.plan.Caution(e.Item)
		return "caution read: " + c.Title
	case ActPhoto:
		if b.Photo == "" {
			return withReason("no picture", b)
		}
		return "picture"
	case ActOverride:
		return withReason("gate opened", b)
	case ActStrike:
		return withReason("entry struck", b)
	}
	if b.Note == "" {
		return "picture"
	}
	return b.Note
}

// valueWords says a value as it was written.
func (b Body) valueWords() string {
	if b.Typed != "" {
		return b.Typed
	}
	return b.Value.String()
}

func outcomeWords(step book.Step, id string, b Body) string {
	if id == checkRound {
		return "check round: every bolt held"
	}
	i := slices.IndexFunc(step.Items, func(x book.Item) bool { return x.ID == id })
	if i < 0 {
		return id
	}
	item := step.Items[i]
	if b.Value.IsSaid() {
		return item.Text + ": " + b.valueWords()
	}
	for _, o := range OutcomesOf(item) {
		if o.ID == b.Outcome && o.Text != "" {
			return item.Text + ": " + strings.ToLower(o.Text[:1]) + o.Text[1:]
		}
	}
	return item.Text
}

func (s *State) removedWords(step book.Step, id string, b Body) string {
	name := s.partName(step, id)
	if b.Outcome == partNotFound {
		return name + ": not there"
	}
	words := name + " off"
	if b.Faces != "" {
		words += ", " + b.Faces
	}
	if b.Tray != "" {
		words += ", " + b.Tray
	}
	return words
}

func (s *State) partName(step book.Step, id string) string {
	for _, p := range s.Stack(step) {
		if p.ID == id {
			return p.Name
		}
	}
	return id
}

// PackWords says a pack: "1 × 0.52 mm + 2 × 0.1 mm".
func PackWords(pack []Piece) string {
	if len(pack) == 0 {
		return "no shim"
	}
	words := make([]string, len(pack))
	for i, p := range pack {
		words[i] = fmt.Sprintf("%d × %s", p.Count, p.Thickness)
	}
	return strings.Join(words, " + ")
}

func withReason(words string, b Body) string {
	if b.Reason == "" {
		return words
	}
	return words + ": " + b.Reason
}
