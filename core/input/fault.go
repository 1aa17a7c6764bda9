// Package fault holds errors that know their place: which field, what was
// wrong with it, and what is accepted instead.
package input

import (
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
)

// Field is one bad field. Path is written the way a person reads JSON:
// "readings[2]", "stock[0].thickness"; empty means the whole input.
type Field struct {
	Path     string `json:"path"`
	Problem  string `json:"problem"`
	Accepted string `json:"accepted,omitempty"`

	cause error // that knew no place: a file, a database that is lost
}

// Error says the fault in one line.
func (f Field) Error() string {
	text := f.Problem
	if f.Path != "" {
		text = f.Path + ": " + text
	}
	if f.Accepted != "" {
		text += "; accepted: " + f.Accepted
	}
	return text
}

// Fields is every bad field of one input, up to Most. The zero value is
// "nothing wrong".
type Fields []Field

// Most faults are listed of one input; who has so many mends these first.
const Most = 20

// Error lists the faults, one a line.
func (fs Fields) Error() string {
	lines := make([]string, len(fs))
	for i, f := range fs {
		lines[i] = f.Error()
	}
	return strings.Join(lines, "\n")
}

// Unwrap gives what lies beneath, so that a lost database is known for what it
// is under whatever name it was asked.
func (fs Fields) Unwrap() []error {
	var causes []error
	for _, f := range fs {
		if f.cause != nil {
			causes = append(causes, f.cause)
		}
	}
	return causes
}

// Add notes one more bad field.
func (fs *Fields) Add(path, accepted, problem string, args ...any) {
	if len(*fs) >= Most {
		return
	}
	for i, a := range args {
		if v, ok := a.(float64); ok {
			args[i] = number(v)
		}
	}
	*fs = append(*fs, Field{Path: path, Problem: fmt.Sprintf(problem, args...), Accepted: accepted})
}

// number is written as people do where %g or %v asks for it.
type number float64

// Format implements fmt.Formatter.
func (n number) Format(f fmt.State, verb rune) {
	if verb == 'g' || verb == 'v' {
		_, _ = io.WriteString(f, Plain(float64(n)))
		return
	}
	_, _ = fmt.Fprintf(f, fmt.FormatString(f, verb), float64(n))
}

// Plain writes a number as people do: no exponent, no more than nine digits.
func Plain(v float64) string {
	switch {
	case math.IsInf(v, 0) || math.IsNaN(v):
		return "no number"
	case math.Abs(v) >= 1e15 || (v != 0 && math.Abs(v) < 1e-9):
		return strconv.FormatFloat(v, 'g', 6, 64)
	}
	rounded, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 9, 64), 64)
	return strconv.FormatFloat(rounded+0, 'f', -1, 64)
}

// Err is nil when nothing was wrong, so that callers can write
// `return out, faults.Err()`.
func (fs Fields) Err() error {
	if len(fs) == 0 {
		return nil
	}
	return fs[:min(len(fs), Most)]
}

// At is a fault of a single field.
func At(path, accepted, problem string, args ...any) Fields {
	var fs Fields
	fs.Add(path, accepted, problem, args...)
	return fs
}

// Below returns the faults of err with their paths set under prefix; an error
// without a place becomes a fault of the prefix itself.
func Below(prefix string, err error) Fields {
	var many Fields
	var one Field
	switch {
	case err == nil:
		return nil
	case errors.As(err, &many):
		out := make(Fields, len(many))
		for i, f := range many {
			f.Path = Join(prefix, f.Path)
			out[i] = f
		}
		return out
	case errors.As(err, &one):
		one.Path = Join(prefix, one.Path)
		return Fields{one}
	}
	return Fields{{Path: prefix, Problem: err.Error(), cause: err}}
}

// Join sets name under prefix: Join("stock[0]", "thickness").
func Join(prefix, name string) string {
	switch {
	case prefix == "" || name == "":
		return prefix + name
	case strings.HasPrefix(name, "["):
		return prefix + name
	}
	return prefix + "." + name
}

// Index is the path of element i of a list.
func Index(path string, i int) string { return fmt.Sprintf("%s[%d]", path, i) }
