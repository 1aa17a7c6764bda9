package quantity

import (
	"bytes"
	"encoding/json"
	"math"
	"strconv"
	"strings"

	"handwerk/core/input"
)

// Plain figures, as a hand types them: each is decoded from JSON as a number, or
// as the text that was typed, and written as a number. A text that can be read
// two ways, as "1,250" can, is refused.

// Number is a plain figure.
type Number float64

// Count is a number of things, or of days, minutes, pieces.
type Count int

// Share is a part of a whole: 0.12, typed "12 %" or "0.12".
type Share float64

// Money is a sum in the shop's currency, in cents.
type Money int64

// MostMoney bounds a sum; more is a slip.
const MostMoney = Money(1e9)

// fromJSON reads a number, or a text by how it is read.
func fromJSON(raw []byte, read func(string) (float64, error)) (float64, error) {
	raw = bytes.TrimSpace(raw)
	var text string
	if len(raw) > 0 && raw[0] == '"' && json.Unmarshal(raw, &text) == nil {
		return read(text)
	}
	var value float64
	if bytes.Equal(raw, []byte("null")) || json.Unmarshal(raw, &value) != nil {
		return 0, input.At("", input.ANumber, "%.40s does not fit here", raw)
	}
	return value, nil
}

// UnmarshalJSON accepts 12.5 or "12,5".
func (n *Number) UnmarshalJSON(raw []byte) error {
	value, err := fromJSON(raw, input.ReadNumber)
	*n = Number(value)
	return err
}

// UnmarshalText accepts "12,5" (YAML).
func (n *Number) UnmarshalText(text []byte) error {
	value, err := input.ReadNumber(string(text))
	*n = Number(value)
	return err
}

// ReadCount reads a whole number.
func ReadCount(text string) (float64, error) {
	value, err := input.ReadNumber(text)
	if err == nil && value != math.Trunc(value) {
		err = input.At("", "a whole number", "%q is not a whole number", strings.TrimSpace(text))
	}
	return value, err
}

// UnmarshalJSON accepts 3 or "3".
func (c *Count) UnmarshalJSON(raw []byte) error {
	value, err := fromJSON(raw, ReadCount)
	if err == nil && (value != math.Trunc(value) || math.Abs(value) > input.MostSaid) {
		err = input.At("", "a whole number", "%.40s is none", raw)
	}
	*c = Count(value)
	return err
}

// UnmarshalText accepts "3" (YAML).
func (c *Count) UnmarshalText(text []byte) error {
	value, err := ReadCount(string(text))
	*c = Count(value)
	return err
}

// ReadShare reads "12 %" and "0.12".
func ReadShare(text string) (float64, error) {
	of, hundred := strings.CutSuffix(strings.TrimSpace(text), "%")
	value, err := input.ReadNumber(of)
	if hundred {
		value /= 100
	}
	return rounded12(value), err
}

// rounded12 keeps twelve digits: 7 % is 0.07.
func rounded12(v float64) float64 {
	r, err := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 12, 64), 64)
	if err != nil {
		return v
	}
	return r
}

// UnmarshalJSON accepts 0.12 or "12 %".
func (s *Share) UnmarshalJSON(raw []byte) error {
	value, err := fromJSON(raw, ReadShare)
	*s = Share(value)
	return err
}

// UnmarshalText accepts "12 %" (YAML).
func (s *Share) UnmarshalText(text []byte) error {
	value, err := ReadShare(string(text))
	*s = Share(value)
	return err
}

// MoneyOf is a sum to its cent; nought where no money can be.
func MoneyOf(sum float64) Money {
	if math.IsNaN(sum) || math.Abs(sum) > 9e15 {
		return 0
	}
	return Money(math.Round(sum * 100))
}

// ReadMoney reads a sum: "1 250", "1250.50", "12,50".
func ReadMoney(text string) (Money, error) {
	value, err := input.ReadNumber(text)
	if err != nil {
		return 0, err
	}
	if math.Abs(value*100-math.Round(value*100)) > 1e-6+1e-12*math.Abs(value) || math.Abs(value) > 9e15 {
		return 0, input.At("", "an amount, at most two decimals", "%s is not an amount", input.Plain(value))
	}
	return MoneyOf(value), nil
}

// Sum in the currency itself.
func (m Money) Sum() float64 { return float64(m) / 100 }

// Times is the sum as often as said, to the cent.
func (m Money) Times(n float64) Money { return MoneyOf(m.Sum() * n) }

// Plain says it as short as it can be: 12.5.
func (m Money) Plain() string { return strconv.FormatFloat(m.Sum(), 'f', -1, 64) }

// String says it, whole or to the cent.
func (m Money) String() string {
	if m%100 == 0 {
		return strconv.FormatInt(int64(m)/100, 10)
	}
	return strconv.FormatFloat(m.Sum(), 'f', 2, 64)
}

// MarshalJSON writes a number.
func (m Money) MarshalJSON() ([]byte, error) {
	return strconv.AppendFloat(nil, m.Sum(), 'f', -1, 64), nil
}

// UnmarshalJSON accepts 12.5, which arithmetic may have left beside the cent, or "12,50".
func (m *Money) UnmarshalJSON(raw []byte) error {
	value, err := fromJSON(raw, func(text string) (float64, error) {
		sum, err := ReadMoney(text)
		return sum.Sum(), err
	})
	*m = MoneyOf(value)
	return err
}

// UnmarshalText accepts "12,50" (YAML).
func (m *Money) UnmarshalText(text []byte) (err error) {
	*m, err = ReadMoney(string(text))
	return err
}

// AsTyped marks the types that a hand may type as text, for whoever describes them.
func (Number) AsTyped() string { return "number" }

// AsTyped marks the type.
func (Count) AsTyped() string { return "integer" }

// AsTyped marks the type.
func (Share) AsTyped() string { return "number" }

// AsTyped marks the type.
func (Money) AsTyped() string { return "number" }
