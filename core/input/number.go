package input

import (
	"math"
	"regexp"
	"strconv"
	"strings"
)

// MostSaid bounds what anybody may type, in any unit; beyond it lies a slip of
// the finger, not a part of a vehicle.
const MostSaid = 1e9

// ANumber is how a plain number is typed.
const ANumber = "a number: 1250, 12.50 or 12,50"

var (
	decimalNumber = regexp.MustCompile(`^[+-]?(\d+\.?\d*|\.\d+)`)
	exponent      = regexp.MustCompile(`^[eE][+-]?\d`)
	fraction      = regexp.MustCompile(`^([+-]?)(?:(\d+)[ -])?(\d+)/(\d+)`)
	// A comma may be a decimal mark, unless it could as well part thousands.
	commaNumber = regexp.MustCompile(`^[+-]?(\d*),(\d+)`)
	grouped     = regexp.MustCompile(`^[+-]?\d{1,3}([ \x{a0}\x{202f}]\d{3})+([.,]\d+)?$`)
	anyBlank    = strings.NewReplacer(" ", "", "\u00a0", "", "\u202f", "")
)

// ReadNumber reads a plain figure: "1 250", "1250.50", "12,50", "1/2".
func ReadNumber(text string) (float64, error) {
	rest := strings.Replace(strings.TrimSpace(text), "−", "-", 1)
	if rest == "" {
		return 0, At("", ANumber, "nothing typed")
	}
	if len(rest) > 60 {
		return 0, At("", ANumber, "too long for a number (%d characters)", len(rest))
	}
	if grouped.MatchString(rest) {
		rest = anyBlank.Replace(rest)
	}
	value, rest, err := TakeNumber(rest, text)
	if err != nil {
		faults := Below("", err)
		for i := range faults {
			if faults[i].Problem != "" && !strings.Contains(faults[i].Problem, "two ways") {
				faults[i].Accepted = ANumber
			}
		}
		return 0, faults
	}
	if strings.TrimSpace(rest) != "" {
		return 0, At("", ANumber, "%q is no number", strings.TrimSpace(text))
	}
	if math.Abs(value) > MostSaid {
		return 0, At("", "up to 1 000 000 000", "the number is too large to be right")
	}
	return value, nil
}

// TakeNumber takes the number off the front of rest.
func TakeNumber(rest, whole string) (float64, string, error) {
	if m := fraction.FindStringSubmatch(rest); m != nil {
		whole, _ := strconv.ParseFloat("0"+m[2], 64)
		top, _ := strconv.ParseFloat(m[3], 64)
		bottom, _ := strconv.ParseFloat(m[4], 64)
		if bottom == 0 {
			return 0, "", At("", "a fraction like 1/16", "%q divides by zero", m[0])
		}
		value := whole + top/bottom
		if m[1] == "-" {
			value = -value
		}
		return value, rest[len(m[0]):], nil
	}
	if m := commaNumber.FindStringSubmatch(rest); m != nil {
		if len(m[2]) == 3 && strings.Trim(m[1], "0") != "" {
			return 0, "", At("", "1.234 or 1234", "%q could mean two things", m[0])
		}
		value, err := strconv.ParseFloat(strings.Replace(m[0], ",", ".", 1), 64)
		if err == nil {
			return value, rest[len(m[0]):], nil
		}
	}
	digits := decimalNumber.FindString(rest)
	if digits == "" {
		return 0, "", At("", "a number, then a unit: 0.62 mm, 24 thou, 1/16 in",
			"%q does not begin with a number", whole)
	}
	value, err := strconv.ParseFloat(digits, 64)
	if err != nil {
		return 0, "", At("", "a number, then a unit", "%q is not a number", digits)
	}
	if exponent.MatchString(rest[len(digits):]) {
		return 0, "", At("", "the number written out, like 0.0012", "write %q without an exponent",
			strings.TrimSpace(whole))
	}
	return value, rest[len(digits):], nil
}
