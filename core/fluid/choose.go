package fluid

import (
	"fmt"
	"sort"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
)

// ChooseIn asks for the class of fluid.
type ChooseIn struct {
	UnitKind     string      `json:"unit_kind" enum:"gearbox,transaxle,differential,transfer_case"` // gearbox, transaxle, differential, transfer_case
	YellowMetals bool        `json:"yellow_metals"`
	Hypoid       bool        `json:"hypoid"`
	PlateSlip    bool        `json:"plate_limited_slip"`
	WetPack      bool        `json:"wet_pack"`
	Call         string      `json:"maker_calls_for,omitempty"` // one of the class ids
	SheetGL5     bool        `json:"sheet_allows_gl5,omitempty"`
	Classic      bool        `json:"classic,omitempty"`
	Coldest      Temperature `json:"coldest_start,omitzero"`
	Load         string      `json:"load,omitempty" enum:"light,normal,heavy"` // light, normal, heavy
}

// Class is one class of fluid with what speaks for and against it.
type Class struct {
	ID      string   `json:"id"`
	Name    string   `json:"name"`
	Grade   string   `json:"grade,omitempty"`
	Score   int      `json:"score"`
	Stop    string   `json:"stop,omitempty"` // a hard stop: must not go in
	School  string   `json:"school"`
	Reasons []string `json:"reasons"`
}

// ChooseOut ranks the classes; those with a stop stand last.
type ChooseOut struct {
	Classes  []Class           `json:"classes"`
	Choice   string            `json:"choice,omitempty"`
	Needed   []string          `json:"additives_needed"`
	Forbid   []string          `json:"additives_forbidden"`
	Verdict  metrology.Verdict `json:"verdict"`
	Says     string            `json:"says"`
	Disposal string            `json:"disposal"`
}

// classes the trade puts into these units. Common practice.
var classNames = []struct{ id, name, school string }{
	{"gl4", "API GL-4 gear oil", "yellow metals first"},
	{"gl5", "API GL-5 gear oil", "hypoid axles"},
	{"mt1", "API MT-1 gear oil", "heavy unsynchronised boxes"},
	{"mineral", "straight mineral gear oil", "old boxes, no EP at all"},
	{"mtf", "manual transmission fluid", "the maker's thin fluid, or a second choice in the same box"},
	{"atf", "automatic transmission fluid of the type called for", "the maker's fluid"},
	{"utf", "universal tractor fluid", "wet packs and brakes that share the gears' oil"},
	{"engine", "10W-30 engine oil", "a stop-gap or short flush"},
}

// Choose ranks classes by rules that name their reason. GL-5 with yellow
// metals is a hard stop unless the spec sheet allows it: its sulphur attacks
// bronze. A maker's call outranks the schools. Source: common practice; API
// 1560 service designations; SAE J306 grades (from memory).
func Choose(in ChooseIn) (ChooseOut, error) {
	var c input.Checks
	kinds := []string{"gearbox", "transaxle", "differential", "transfer_case"}
	if !contains(kinds, in.UnitKind) {
		c.Add("unit_kind", strings.Join(kinds, ", "), "%q is not filled here", in.UnitKind)
	}
	if in.Call != "" && !contains(ids(), in.Call) {
		c.Add("maker_calls_for", strings.Join(ids(), ", "), "%q is not a class", in.Call)
	}
	if in.Load != "" && !contains([]string{"light", "normal", "heavy"}, in.Load) {
		c.Add("load", "light, normal, heavy", "%q is not a load", in.Load)
	}
	cold := 263.15
	if in.Coldest.IsSaid() {
		cold = kelvin(&c, "coldest_start", in.Coldest)
	}
	if err := c.Err(); err != nil {
		return ChooseOut{}, err
	}
	out := ChooseOut{Needed: []string{}, Forbid: []string{}, Disposal: "send used oil for proper disposal"}
	for _, n := range classNames {
		out.Classes = append(out.Classes, in.judge(Class{ID: n.id, Name: n.name, School: n.school,
			Reasons: []string{}}, cold))
	}
	sort.SliceStable(out.Classes, func(i, j int) bool {
		a, b := out.Classes[i], out.Classes[j]
		if (a.Stop == "") != (b.Stop == "") {
			return a.Stop == ""
		}
		return a.Score > b.Score
	})
	in.additives(&out)
	best := out.Classes[0]
	if best.Stop != "" {
		out.Verdict, out.Says = metrology.Out, nothingFits(out.Classes)
		return out, nil
	}
	out.Choice, out.Verdict = best.ID, metrology.In
	if cold < coldest {
		best.Reasons = append(best.Reasons, "no grade of it is rated for such cold: warm the unit before it turns")
		out.Classes[0] = best
	}
	out.Says = strings.TrimSpace(fmt.Sprintf("%s %s: %s", best.Name, best.Grade, strings.Join(best.Reasons, "; ")))
	if in.Call != "" && best.ID != in.Call {
		out.Verdict = metrology.Out
		out.Says = "the maker's fluid does not suit this unit: check the spec sheet before you fill anything"
	}
	return out, nil
}

// ChooseMethod is Choose as the catalogue lists it.
var ChooseMethod = calculator.Define(examples, calculator.About{
	Name: "fluid", Version: 2,
	Purpose: "which class of fluid goes in, ranked with reasons; what must not",
	Formula: "rules with scores and hard stops, each with its reason",
	Assumes: "classes, never brands; the maker's call outranks the schools, but no hard stop",
	Schools: "GL-4 for yellow metals; straight mineral oil in old boxes; the maker's ATF; manual " +
		"transmission fluid; engine oil as a stop-gap",
	Sources: []string{calculator.Practice, "API 1560 and SAE J306 (from memory)"},
}, Choose)

// nothingFits says what each class would cost here.
func nothingFits(classes []Class) string {
	costs := []string{}
	for _, c := range classes {
		costs = append(costs, c.Name+": "+c.Stop)
	}
	return "nothing suits: ask the maker and put the answer on the spec sheet before you fill anything. Why not the others: " + strings.Join(
		costs,
		"; ",
	)
}

func ids() []string {
	var list []string
	for _, n := range classNames {
		list = append(list, n.id)
	}
	return list
}

func contains(list []string, s string) bool {
	for _, x := range list {
		if x == s {
			return true
		}
	}
	return false
}

// rule adds to a class's score for a reason, or stops it.
type rule struct {
	classes string // ids, joined by spaces
	holds   bool
	score   int
	stop    bool
	says    string
}

func (in ChooseIn) judge(c Class, cold float64) Class {
	box := in.UnitKind == "gearbox" || in.UnitKind == "transaxle"
	for _, r := range []rule{
		{"gl5", in.YellowMetals && !in.SheetGL5, 0, true, "yellow metals inside: the sulphur of GL-5 eats bronze"},
		{"gl4 mineral mtf atf utf engine mt1", in.Hypoid, 0, true, "a hypoid pair needs the EP of GL-5"},
		{"gl5", in.Hypoid, 6, false, "hypoid gears slide: they need its EP"},
		{"gl4", in.YellowMetals && !in.Hypoid, 4, false, "enough EP, kind to bronze"},
		{"gl4", !in.Hypoid, 2, false, "the usual gear oil of boxes and transfer cases"},
		{"mineral", in.Classic && !in.Hypoid, 3, false, "old boxes were built for it"},
		{"mtf", box && !in.Classic, 2, false, "synchronisers shift lighter when cold"},
		{"mt1", in.Load == "heavy" && box && !in.YellowMetals, 2, false, "thermally stable under heavy load"},
		{"atf", in.WetPack, 5, false, "a wet pack grips in ATF"},
		{"utf", in.WetPack, 4, false, "made for wet packs beside gears"},
		{"utf", !in.WetPack, -1, false, "made for wet packs, of which there is none here"},
		{"gl4 gl5 mineral mt1", in.WetPack && !in.Hypoid, -4, false, "gear oil lets a wet pack slip or grab"},
		{"engine", true, -2, false, "a stop-gap only: change it soon"},
		{c.ID, in.Call == c.ID, 10, false, "the maker calls for it"},
		{"gl4 gl5 mineral", cold < 253.15, -1, false, "stiff at that cold: choose the thin grade"},
		{"mtf atf", cold < 253.15, 1, false, "flows when it is that cold"},
	} {
		if !r.holds || !contains(strings.Fields(r.classes), c.ID) {
			continue
		}
		if r.stop {
			c.Stop = r.says
			continue
		}
		c.Score += r.score
		c.Reasons = append(c.Reasons, r.says)
	}
	c.Grade = in.grade(c.ID, cold)
	return c
}

// coldest start that a grade here is rated for; below it none is named.
const coldest = 233.15 - 1e-6

// grade by the coldest start (SAE J306: 75W to -40, 80W to -26, 85W to -12 °C,
// from memory) and the load.
func (in ChooseIn) grade(class string, cold float64) string {
	if cold < coldest {
		return ""
	}
	if class == "mineral" {
		return "SAE 90"
	}
	if !contains([]string{"gl4", "gl5", "mt1"}, class) {
		return ""
	}
	winter := "75W"
	switch {
	case cold >= 261.15-1e-6:
		winter = "85W"
	case cold >= 247.15-1e-6:
		winter = "80W"
	}
	summer := "90"
	if in.Load == "heavy" {
		summer = "140"
	}
	return "SAE " + winter + "-" + summer
}

func (in ChooseIn) additives(out *ChooseOut) {
	if in.PlateSlip {
		out.Needed = append(out.Needed, "friction modifier for clutch-type limited slip, or a fluid that has it")
	}
	if in.WetPack {
		out.Forbid = append(out.Forbid, "friction modifier beyond what the fluid has: the pack would slip")
	}
	out.Forbid = append(
		out.Forbid,
		"thickeners: some swear by them, others have seen them trap air, and aerated oil does not cool",
	)
}
