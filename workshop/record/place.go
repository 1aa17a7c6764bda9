package record

import (
	"strings"

	"handwerk/workshop/say"
)

// Place is where at its step an entry stands; the zero value is the step as a
// whole. Its one text form stands in the record and on the wire:
//
//	""       the step
//	3        trial 3
//	3.2      reading 2 of trial 3
//	3.play   the answer to play in trial 3
//	p1.b4    bolt 4 in pass 1
//	seal     a line, a part, a caution, by its id
type Place struct {
	Trial, Reading int
	Pass, Bolt     int
	Name           string
}

// ReadPlace reads the text form. Whatever has no other meaning is a name, so
// that every text is some place's and comes back as it was.
func ReadPlace(text string) Place {
	head, tail, dotted := strings.Cut(text, ".")
	if trial := ReadNumber(head, ""); trial > 0 {
		switch reading := ReadNumber(tail, ""); {
		case !dotted:
			return Place{Trial: trial}
		case reading > 0:
			return Place{Trial: trial, Reading: reading}
		case tail != "":
			return Place{Trial: trial, Name: tail}
		}
	}
	if pass, bolt := ReadNumber(head, "p"), ReadNumber(tail, "b"); pass > 0 && bolt > 0 {
		return Place{Pass: pass, Bolt: bolt}
	}
	return Place{Name: text}
}

// ReadNumber reads a number from 1 behind its letter, written in the one way;
// 0 is none.
func ReadNumber(text, letter string) int {
	digits, ok := strings.CutPrefix(text, letter)
	if !ok || len(digits) == 0 || len(digits) > 9 || digits[0] == '0' {
		return 0
	}
	n := 0
	for _, r := range digits {
		if r < '0' || r > '9' {
			return 0
		}
		n = 10*n + int(r-'0')
	}
	return n
}

// String is the text form.
func (p Place) String() string {
	switch {
	case p.Bolt > 0:
		return "p" + say.Itoa(p.Pass) + ".b" + say.Itoa(p.Bolt)
	case p.Reading > 0:
		return say.Itoa(p.Trial) + "." + say.Itoa(p.Reading)
	case p.Trial > 0 && p.Name != "":
		return say.Itoa(p.Trial) + "." + p.Name
	case p.Trial > 0:
		return say.Itoa(p.Trial)
	}
	return p.Name
}

// MarshalText writes the text form.
func (p Place) MarshalText() ([]byte, error) { return []byte(p.String()), nil }

// UnmarshalText reads the text form.
func (p *Place) UnmarshalText(text []byte) error {
	*p = ReadPlace(string(text))
	return nil
}

// Ask is what is answered in a trial; empty for a reading and everywhere else.
func (p Place) Ask() string {
	if p.Trial == 0 {
		return ""
	}
	return p.Name
}

// lineText is what stands at a line of the step, or its place.
func (s *Step) lineText(at Place) string {
	for _, item := range s.Items {
		if ReadPlace(item.ID) == at {
			return item.Text
		}
	}
	return at.String()
}
