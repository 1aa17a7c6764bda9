// Package supply works out what a rebuild has to buy: which kits and which
// singles cover what the verdicts ask for, what a kit lacks, what a pack leaves
// over, what all of it costs and when the last piece is here; and whether a new
// part meets the old one's interfaces.
package supply

import (
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Single is a part as a supplier sells it, alone or in a pack. Money is in the
// shop's currency; a lead time counts days, 0 is today.
type Single struct {
	Part     string         `json:"part"` // id of the part it stands for
	Name     string         `json:"name,omitempty"`
	Supplier string         `json:"supplier"`
	Price    quantity.Money `json:"price"`          // of one pack
	Pack     quantity.Count `json:"pack,omitempty"` // pieces in it; 0 is one
	Lead     quantity.Count `json:"lead_days"`
	// Compare are the interfaces to hold against the old part, with commas
	// between them: spline count, flange bolt.
	Compare string `json:"compare,omitempty"`
	// Drawer is where what is left over goes, Size what it is called there.
	Drawer string `json:"drawer,omitempty"`
	Size   string `json:"size,omitempty"`
}

// Kit is a set of parts sold together.
type Kit struct {
	ID       string         `json:"id"`
	Name     string         `json:"name"`
	Supplier string         `json:"supplier"`
	Price    quantity.Money `json:"price"`
	Lead     quantity.Count `json:"lead_days"`
	Holds    Holds          `json:"holds"`
}

// Holds are the parts of a kit with their pieces, by the parts' ids. It is
// written as people say it: "seal, circlip x 2".
type Holds map[string]int

// MarshalText writes the parts in the order of their names.
func (h Holds) MarshalText() ([]byte, error) {
	var words []string
	for _, part := range slices.Sorted(maps.Keys(h)) {
		if n := h[part]; n != 1 {
			part += " x " + strconv.Itoa(n)
		}
		words = append(words, part)
	}
	return []byte(strings.Join(words, ", ")), nil
}

const (
	mostPieces = 1000
	mostOffers = 500
	mostKits   = 6 // that may be combined; more are no choice, but a catalogue
	mostPrice  = quantity.Money(1e8)
	mostLead   = 730
	mostText   = 120
)

// UnmarshalText reads "seal, circlip x 2".
func (h *Holds) UnmarshalText(text []byte) error {
	all := Holds{}
	for _, word := range strings.Split(string(text), ",") {
		part, count, many := strings.Cut(strings.TrimSpace(word), " x ")
		n := 1
		if many {
			var err error
			if n, err = strconv.Atoi(strings.TrimSpace(count)); err != nil || n < 1 || n > mostPieces {
				return input.At(
					"",
					"parts with commas between them: seal, circlip x 2",
					"%q is not a number of pieces",
					count,
				)
			}
		}
		if part = strings.TrimSpace(part); part == "" {
			return input.At("", "parts with commas between them: seal, circlip x 2", "a part is missing")
		}
		all[part] += n
	}
	*h = all
	return nil
}

// InPack is how many pieces one pack holds.
func (s Single) InPack() int { return int(max(1, s.Pack)) }

// Interfaces are those to hold against the old part.
func (s Single) Interfaces() (list []string) {
	for _, word := range strings.Split(s.Compare, ",") {
		if word = strings.TrimSpace(word); word != "" {
			list = append(list, word)
		}
	}
	return list
}

// CheckSingles finds what no order could be made of.
func CheckSingles(at string, list []Single) (faults input.Fields) {
	if len(list) > mostOffers {
		faults.Add(at, "up to "+strconv.Itoa(mostOffers), "%d of them", len(list))
	}
	for i, s := range list {
		at := input.Index(at, i)
		spelled(&faults, at, map[string]string{"part": s.Part, "supplier": s.Supplier}, true)
		spelled(&faults, at, map[string]string{"name": s.Name, "compare": s.Compare, "drawer": s.Drawer,
			"size": s.Size}, false)
		bounded(&faults, at, s.Price, s.Lead)
		if s.Pack < 0 || s.Pack > mostPieces {
			faults.Add(at+".pack", "1 to 1000 pieces", "%d cannot be", s.Pack)
		}
		if (s.Drawer == "") != (s.Size == "") {
			faults.Add(at+".size", "a drawer and the size it keeps there, or neither", "one of them is missing")
		}
	}
	return faults
}

// CheckKits finds what no order could be made of.
func CheckKits(at string, list []Kit) (faults input.Fields) {
	if len(list) > mostKits {
		faults.Add(at, "up to "+strconv.Itoa(mostKits)+" kits of one unit", "%d of them", len(list))
	}
	ids := map[string]bool{}
	for i, k := range list {
		at := input.Index(at, i)
		spelled(&faults, at, map[string]string{"id": k.ID, "name": k.Name, "supplier": k.Supplier}, true)
		bounded(&faults, at, k.Price, k.Lead)
		if ids[k.ID] || strings.ContainsAny(k.ID, "+ ") {
			faults.Add(at+".id", "a short name of its own, without spaces or +", "%q is not a usable name", k.ID)
		}
		ids[k.ID] = true
		if len(k.Holds) == 0 {
			faults.Add(at+".holds", "parts with commas between them: seal, circlip x 2", "the kit is empty")
		}
	}
	return faults
}

func spelled(faults *input.Fields, at string, texts map[string]string, must bool) {
	for _, name := range slices.Sorted(maps.Keys(texts)) {
		switch n := utf8.RuneCountInString(texts[name]); {
		case must && strings.TrimSpace(texts[name]) == "":
			faults.Add(at+"."+name, "a text", "missing")
		case n > mostText:
			faults.Add(at+"."+name, fmt.Sprintf("up to %d characters", mostText), "the text is too long")
		}
	}
}

func bounded(faults *input.Fields, at string, price quantity.Money, lead quantity.Count) {
	if price < 0 || price > mostPrice {
		faults.Add(at+".price", "an amount from 0, like 12.50", "%s is not an amount", price)
	}
	if lead < 0 || lead > mostLead {
		faults.Add(at+".lead_days", "0 to 730 days from today", "%d days is not possible", lead)
	}
}
