package record

import (
	"fmt"
	"strings"

	"handwerk/workshop/say"
)

// Summary is what stands on the first page of a record: for who reads one page.
type Summary struct {
	Agreed  []string `json:"agreed"`  // the way that was decided, and the customer's approval
	Found   []string `json:"found"`   // the cause, and what was worn or missing
	Fitted  []string `json:"fitted"`  // what is new, which oil, which packs
	Results []string `json:"results"` // a line each of what was measured, tightened, proved
	Open    []string `json:"open"`    // what does not read well, with the reason it was left

	Measured  []string `json:"-"` // a step each
	Tightened []string `json:"-"`
	Tried     int      `json:"-"` // points on the road
	Bad       []string `json:"-"` // of them
}

// SayProof says how many points were tried on the road, and which are bad.
func (sum *Summary) SayProof() string {
	switch {
	case sum.Tried == 0:
		return ""
	case len(sum.Bad) == 0:
		return fmt.Sprintf("Proved: %s, all as they should be", say.Several(sum.Tried, "point", "points"))
	}
	return fmt.Sprintf("Proved: %s, not as it should be: %s", say.Several(sum.Tried, "point", "points"),
		strings.Join(sum.Bad, "; "))
}
