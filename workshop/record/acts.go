package record

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/say"
)

// Act is everything the rules know of an act: what it says is its type in acts.
type Act struct {
	acts.Act
	// Accept judges a draft, gives it its place, and works out what it means.
	Accept func(*Attempt) error
	// Strike works out what is left when an entry goes; nil when nothing hangs on it.
	Strike func(*Attempt) error
	// Says puts an entry into words.
	Says func(*State, *Step, *Entry) string
	// Paper are its words for the customer's paper, empty where it stands on none;
	// nil: the same.
	Paper func(*State, *Step, *Entry) string

	Many   bool // there may be many at a step; else one live entry holds a place
	Whole  bool // it says something of the whole rebuild: whose step it is, and its gate, are no matter
	Early  bool // it waits for no gate and no caution: no hand moves
	Aside  bool // nothing that any step needs hangs on it
	Remark bool // it changes no figure
	Ground bool // what the steps are worked on is another after it
}

// commonActs are those that any step takes.
func commonActs() []*Act {
	none := func(*Attempt) error { return nil }
	return []*Act{
		{
			Act: acts.Note{}, Accept: acceptNote, Says: noteWords,
			Many: true, Whole: true, Early: true, Aside: true, Remark: true,
		},
		{Act: acts.Found{}, Accept: acceptFound, Says: foundWords, Many: true, Whole: true, Early: true, Remark: true},
		{
			Act:    acts.Back{},
			Accept: acceptBack,
			Says:   backWords,
			Paper:  OnNoPaper,
			Whole:  true,
			Early:  true,
			Remark: true,
		},
		{Act: acts.Stands{}, Accept: acceptStands, Says: standsWords, Paper: OnNoPaper, Remark: true},
		{
			Act: acts.Time{}, Accept: acceptTime, Says: timeWords, Paper: OnNoPaper,
			Whole: true, Early: true, Aside: true, Remark: true,
		},
		{
			Act: acts.Promised{}, Accept: acceptPromised, Says: promisedWords,
			Many: true, Whole: true, Early: true, Remark: true, Ground: true,
		},
		{Act: acts.Strike{}, Accept: acceptStrike, Says: ReasonWords("struck out")},
		{Act: acts.Acknowledge{}, Accept: none, Says: acknowledgedWords, Remark: true},
		{Act: acts.Override{}, Accept: none, Says: ReasonWords("started early"), Early: true, Remark: true},
		{Act: acts.Figure{}, Accept: acceptFigure, Says: figureSaid, Paper: figurePaper, Early: true, Ground: true},
		{Act: acts.Sheet{}, Accept: acceptSheet, Says: sheetWords, Many: true, Early: true, Ground: true},
		{Act: acts.Skip{}, Accept: acceptSkip, Says: ReasonWords("not needed")},
	}
}

// act is what the rules know of an act at a step; nil where it is not taken.
func (s *Step) act(name acts.Name) *Act {
	i := slices.IndexFunc(s.acts, func(a *Act) bool { return a.Name() == name })
	if i < 0 {
		return nil
	}
	return s.acts[i]
}

// Acts lists what may be done at a step, by whoever may and once it is open.
func (s *Step) Acts() []acts.Name {
	names := make([]acts.Name, len(s.acts))
	for i, a := range s.acts {
		names[i] = a.Name()
	}
	return names
}

// Draft is an entry as asked for.
type Draft struct {
	Item       Place    `json:"item,omitzero"`
	Supersedes string   `json:"supersedes,omitempty"`
	Says       acts.Act `json:"-"` // a pointer to one of the acts
}

// head is what stands before the fields of an act.
type head struct {
	Act        acts.Name `json:"act"`
	Item       Place     `json:"item,omitzero"`
	Supersedes string    `json:"supersedes,omitempty"`
}

// MarshalJSON writes a draft as it is sent: one object, told apart by its act.
func (d Draft) MarshalJSON() ([]byte, error) {
	first, err := json.Marshal(head{d.Says.Name(), d.Item, d.Supersedes})
	if err != nil {
		return nil, err
	}
	body, err := json.Marshal(d.Says)
	if err != nil || len(body) <= len("{}") {
		return first, err
	}
	return append(append(first[:len(first)-1], ','), body[1:]...), nil
}

// UnmarshalJSON reads a draft; every bad field is named.
func (d *Draft) UnmarshalJSON(raw []byte) error {
	var given map[string]json.RawMessage
	if err := json.Unmarshal(raw, &given); err != nil || given == nil {
		return input.At("", "an object with act, item, supersedes and the fields of the act", "this is none")
	}
	var h head
	var faults input.Fields
	for name, into := range map[string]any{"act": &h.Act, "item": &h.Item, "supersedes": &h.Supersedes} {
		value, ok := given[name]
		delete(given, name)
		if !ok && name == "act" {
			faults.Add("act", "", "missing")
		}
		if ok && string(value) == "null" && name != "act" {
			continue
		}
		if ok {
			faults = append(faults, input.Below(name, input.Decode(value, into))...)
		}
	}
	if len(faults) > 0 {
		slices.SortFunc(faults, func(a, b input.Field) int { return strings.Compare(a.Path, b.Path) })
		return faults
	}
	body, err := json.Marshal(given)
	if err != nil {
		return err
	}
	d.Item, d.Supersedes = h.Item, h.Supersedes
	d.Says, err = acts.Decode(h.Act, body)
	return err
}

// Saying is what a draft says, as the act that it is.
func Saying[T any, P interface {
	*T
	acts.Act
}](p *Attempt) P {
	return p.Draft.Says.(P) // the rules are found by the act's name
}

// As reads what an entry says; the zero value when it is another act.
func As[T any, P interface {
	*T
	acts.Act
}](e *Entry) P {
	if said, ok := e.ReadAct().(P); ok {
		return said
	}
	return new(T)
}

// FindAct is what the live entry at a place of a step says, with the entry; nil where
// there is none.
func FindAct[T any, P interface {
	*T
	acts.Act
}](s *State, step *Step, at Place) (P, *Entry) {
	e, ok := s.At(step).Has(P(new(T)), at)
	if !ok {
		return nil, nil
	}
	return As[T, P](&e), &e
}

// ReasonWords says an act of which there is no more to say than why.
func ReasonWords(words string) func(*State, *Step, *Entry) string {
	return func(_ *State, _ *Step, e *Entry) string { return WithReason(words, e.ReadAct()) }
}

// OnNoPaper: the customer's paper does not say it.
func OnNoPaper(*State, *Step, *Entry) string { return "" }

// WithReason says words and the reason that was given, if one was.
func WithReason(words string, said acts.Act) string {
	if reason := acts.Reason(said); reason != "" {
		return words + ": " + reason
	}
	return words
}

func acceptStrike(p *Attempt) error {
	old := p.Step.act(p.Old.Act)
	if old == nil || old.Strike == nil {
		return nil
	}
	return old.Strike(p)
}

func acceptNote(p *Attempt) error {
	said := Saying[acts.Note](p)
	if strings.TrimSpace(said.Note) == "" && said.Photo == "" {
		return input.At("note", "a text", "nothing was typed")
	}
	p.Draft.Item = Place{} // notes take no place
	return nil
}

func noteWords(_ *State, _ *Step, e *Entry) string {
	if said := As[acts.Note](e); said.Note != "" {
		return said.Note
	}
	return "picture"
}

func acknowledgedWords(s *State, _ *Step, e *Entry) string {
	return "caution confirmed: " + cautionTitles(s, []string{e.Item.String()})
}

func timeWords(_ *State, _ *Step, e *Entry) string {
	return say.Several(int(As[acts.Time](e).Minutes), "minute", "minutes") + " on this step: " + e.Item.String()
}

func promisedWords(_ *State, _ *Step, e *Entry) string {
	return WithReason("promised for "+say.DayWords(As[acts.Promised](e).Due), e.ReadAct())
}
