package files

import (
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

// opened is the book with what a point of it asks for at hand.
type opened struct {
	book.Book
	t *testing.T
}

func (o opened) step(route, id string) book.Step {
	r, ok := o.Route(route)
	require.True(o.t, ok, route)
	s, _, ok := r.Step(id)
	require.True(o.t, ok, "%s has no step %s", route, id)
	return s
}

func (o opened) says(route, id string) string {
	return wordsOf(reflect.ValueOf(o.step(route, id)))
}

// tells: the words stand at the step.
func (o opened) tells(route, id, words string) bool {
	return strings.Contains(o.says(route, id), words)
}

// limit is what a step's reading is held against.
func (o opened) limit(route, id string) string { return o.step(route, id).Measure.Limit }

func (o opened) warns(route, id, caution string) bool {
	return slices.Contains(o.step(route, id).AllCautions(), caution)
}

func (o opened) wants(route, id, key, state string) bool {
	return o.step(route, id).Wants[key] == state
}

func (o opened) waits(route, step, first string) bool {
	r, _ := o.Route(route)
	return waits(r, step, first)
}

func (o opened) line(route, id, item string) bool {
	return slices.ContainsFunc(o.step(route, id).Items, func(i book.Item) bool { return i.ID == item })
}

func (o opened) caution(id string) book.Caution {
	i := slices.IndexFunc(o.Cautions, func(c book.Caution) bool { return c.ID == id })
	require.GreaterOrEqual(o.t, i, 0, id)
	return o.Cautions[i]
}

func (o opened) test(id string) book.BookTest {
	i := slices.IndexFunc(o.Tests, func(x book.BookTest) bool { return x.ID == id })
	require.GreaterOrEqual(o.t, i, 0, id)
	return o.Tests[i]
}

// What the book once had wrong or dangerous, a line each, by common practice: it stays
// mended.
func TestTheBookStaysMended(t *testing.T) {
	t.Parallel()
	o := opened{shippedBook(t), t}
	for _, x := range []struct {
		point string
		holds bool
	}{
		{
			"no flywheel bolt comes out for a dial",
			!strings.Contains(wordsOf(reflect.ValueOf(o.Book)), "flywheel bolt out"),
		},
		{"the dial stands on a magnet", o.tells("clutch-hydraulic", "housing", "Magnet foot")},
		{"no brakes are caged for a drive", !o.warns("axle-power-divider", "branch", "spring-brakes")},
		{"nobody stands at a turning shaft", o.tells("axle-power-divider", "branch", "Nobody near the shaft")},
		{"caged brakes are uncaged", o.wants("axle-power-divider", "drive-after", "spring-brakes", "working")},
		{"a selector in neutral holds nothing", o.warns("transfer-case-motor", "supply", "shaft-brake")},
		{"nor by hand", slices.Contains(o.test("selector-by-hand").Cautions, "shaft-brake")},
		{"nor by its lever", slices.Contains(o.test("range-lever").Cautions, "shaft-brake")},
		{"the customer chocks it too", o.tells("transfer-case-motor", "run-in", "wheels chocked")},
		{"neutral of the case is named", strings.Contains(o.caution("shaft-brake").Text, "transfer case in neutral")},
		{"a shared reservoir is asked for", o.line("clutch-hydraulic", "reservoir", "whose")},
		{"and not sucked empty", o.line("pedal-hydraulics", "fluid-out", "reservoir")},
		{"the finish of a bolt is asked", o.tells("transfer-case-two-outputs", "bolt", "Finish of the threads")},
		{"the earthed terminal first", strings.Contains(o.caution("battery").Text, "earthed terminal first")},
		{"chock, cage, drain", inOrder(o.caution("spring-brakes").Text, "Chock", "Cage", "drain")},
		{"a car off a lift kills", o.caution("tipping").Grave},
		{"air brakes: twin disc", o.warns("clutch-twin-disc", "air-brakes", "spring-brakes")},
		{"air brakes: longitudinal", o.warns("gearbox-longitudinal", "air-brakes", "spring-brakes")},
		{"air brakes: two outputs", o.warns("transfer-case-two-outputs", "air-brakes", "spring-brakes")},
		{"air brakes: dog case", o.warns("transfer-case-dog", "air-brakes", "spring-brakes")},
		{"nobody presses a loose slave out", o.warns("clutch-hydraulic", "strip", "slave-bursts")},
		{"pinion preload alone", o.wants("axle-ring-pinion", "preload", "strip.carrier", "out")},
		{"total torque without shafts", o.wants("axle-ring-pinion", "total-torque", "strip-shafts.shafts", "out")},
		{"what came back whole is judged whole", o.limit("axle-torque-biasing", "return-preload") == "total-torque"},
		{"side preload with the pinion out", o.wants("transaxle", "side-preload", "strip-gears.pinion", "out")},
		{"and the case at torque", o.wants("transaxle", "side-preload", "torque.cover", "at torque")},
		{"a final drive has a pattern", o.waits("transaxle", "apart", "pattern")},
		{"small ends point outwards", o.tells("transaxle", "strip", "taper outwards")},
		{"bench breakaway before the ring", o.waits("axle-limited-slip", "build-ring", "breakaway-after")},
		{"one look at the pattern", o.waits("axle-limited-slip", "build-shafts", "pattern")},
		{
			"runout before the disc of a conversion",
			o.waits("gearbox-auto-to-manual", "build-clutch", "flywheel-runout"),
		},
		{"the crossmember after the gearbox", o.waits("gearbox-auto-to-manual", "build", "lift-in")},
		{"the plug before the flush", o.wants("gearbox-oil-service", "flushed", "drain-plug", "tight")},
		{"the teeth, not the flange", o.limit("axle-exchange", "arrival-backlash") == "backlash"},
		{"a lever is hooked to the block", o.tells("clutch-twin-disc", "lift", "hooked to the block")},
		{
			"piston travel by a dial",
			o.step("transfer-case-wet-pack", "released-clearance").Measure.Gauge == "dial indicator",
		},
		{
			"float with nut and cover torqued",
			o.wants("gearbox-longitudinal", "float-again", "torque.cover", "at torque"),
		},
		{"the seal is looked at before the wheel", o.waits("clutch-hydraulic", "build-flywheel", "while-out")},
		{"centred: cable", o.waits("clutch-cable", "lift-in", "centred")},
		{"centred: single mass", o.waits("clutch-single-mass", "lift-in", "centred")},
		{"a cable goes on after the gearbox", o.waits("clutch-cable", "build-cable", "lift-in")},
		{"a case has no disc", !o.tells("transfer-case-dog", "lift-in", "disc")},
		{"a head has no springs", !o.tells("axle-power-divider", "lift-in", "springs")},
		{"a tyre is rolled out", o.step("transfer-case-viscous", "tyres").Measure.Calc == "tyres"},
		{"breakaway with the handbrake off", o.tells("axle-limited-slip", "breakaway-before", "handbrake off")},
		{"as many plates as there are", len(o.step("axle-limited-slip", "stack").Measure.Asks) == 4},
		{
			"the sheet's springs",
			strings.Contains(string(o.step("transfer-case-wet-pack", "pack").Measure.Bind["springs"]), "sheet.figures.springs"),
		},
		{"no grease at a flywheel", len(o.step("clutch-hydraulic", "build-flywheel").Materials) == 0},
		{
			"no mineral oil at brake-fluid seals",
			slices.Equal(o.step("pedal-hydraulics", "build").Materials, []string{"fluid-brake"}),
		},
		{"a worn disc is renewed", o.step("clutch-hydraulic", "lining").Measure.Renews != ""},
		{"the cover after the dry run", o.waits("transfer-case-dog", "build-cover", "dry-run")},
		{"a pedal has no splines", !o.line("pedal-hydraulics", "interfaces", "splines")},
		{"a second pair of eyes", o.waits("axle-ring-pinion", "lift-in", "looked-over")},
		{"a wet pack knows that it is one", bindsElse(o.step("transfer-case-wet-pack", "fluid"), "wet_pack", "true")},
		{"plates know that they are", bindsElse(o.step("axle-limited-slip", "fluid"), "plate_limited_slip", "true")},
		{
			"a gearbox has bronze unless it is known",
			bindsElse(o.step("gearbox-longitudinal", "fluid"), "yellow_metals", "true"),
		},
		{"an axle is hypoid unless it is known", bindsElse(o.step("axle-ring-pinion", "fluid"), "hypoid", "true")},
		{"a leak is looked for before a drive", len(o.test("leak-place").Needs) == 0},
		{"biting is felt with the engine on", slices.Contains(o.test("biting-point").Needs, "engine_runs")},
		{"an air lock wants air", slices.Contains(o.test("lock-engages").Needs, "engine_runs")},
		{"backlash is read before it comes apart", o.waits("axle-ring-pinion", "strip", "found-backlash")},
		{
			"and the found one stands beside",
			o.step("axle-ring-pinion", "final-backlash").Measure.Found == "found-backlash",
		},
		{"limited slip: found beside", o.step("axle-limited-slip", "backlash").Measure.Found == "found-backlash"},
		{"ratios are asked with the kit", weighsBy(o.step("clutch-hydraulic", "capacity"), "clutch-release")},
		{"and with the cylinders", weighsBy(o.step("pedal-hydraulics", "both"), "clutch-release")},
		{
			"a rod is measured before it leaves",
			o.tells("pedal-hydraulics", "strip", "Measure each rod before you move it"),
		},
		{
			"rod, port, bleed, in this order",
			inOrder(o.says("pedal-hydraulics", "bleed"), "Push rod play first", "compensating port"),
		},
		{"the skin school's clock", o.tells("transfer-case-dog", "sealant", "bead")},
		{"by marks without the tool", o.leavesOut("axle-ring-pinion", "school", "marks", "depth")},
		{"by pattern without tool or marks", o.leavesOut("axle-ring-pinion", "school", "pattern", "depth-by-marks")},
		{"the seal stays before the flywheel", o.waits("clutch-single-mass", "build-flywheel", "while-out")},
		{"a hose holds pressure as a closed port", o.test("hose-felt").Given["hose-swollen"][2] >= 0.6},
		{"a flexing bulkhead is almost certain", o.test("box-watched").Otherwise[1] <= 0.01},
		{"another rod is almost certain", o.test("push-rod-length").Otherwise[1] <= 0.01},
		{"braked reverse stays quiet", o.test("reverse-grind").Given["clutch-drags"][0] >= 0.2},
		{"a fork is looked at through its boot", o.test("fork-boot").Given["fork-worn"][1] > 0.9},
		{"set the free play, stall it again", o.test("free-play-set").Minutes == 3},
		{"a figure of one case is not another's", !slices.ContainsFunc(o.Causes, func(c book.Cause) bool {
			return slices.Contains(c.Units, "transfer case") && strings.Contains(c.Action, "gearbox")
		})},
	} {
		assert.True(t, x.holds, x.point)
	}
}

// inOrder tells that words stand in a text one after the other.
func inOrder(text string, words ...string) bool {
	for _, w := range words {
		_, rest, found := strings.Cut(text, w)
		if !found {
			return false
		}
		text = rest
	}
	return true
}

// bindsElse tells what a fluid step goes on with where no sheet says.
func bindsElse(s book.Step, name, known string) bool {
	return strings.Contains(string(s.Weighs[0].Bind[name]), ", else "+known)
}

// weighsBy tells that a step weighs its choice by a calculator.
func weighsBy(s book.Step, calc string) bool {
	return slices.ContainsFunc(s.Weighs, func(w book.Weighing) bool { return w.Calc == calc })
}

// leavesOut tells that a choice goes on without a step.
func (o opened) leavesOut(route, id, choice, step string) bool {
	return slices.ContainsFunc(o.step(route, id).Choices, func(c book.Choice) bool {
		return c.ID == choice && slices.Contains(c.Without, step)
	})
}

// figureOfACar is a ratio, a speed or a torque that one vehicle has and another has not.
var figureOfACar = regexp.MustCompile(`\d ?(mph|km/h|rpm|lb-ft)\b|[1-9]\.\d{3}\b|\bExample\b|\bis met\b`)

// "Why" speaks of the matter, never of some other vehicle's figures.
func TestWhySpeaksOfTheMatter(t *testing.T) {
	t.Parallel()
	spoken := 0
	for _, r := range shippedBook(t).Routes {
		for _, s := range r.Steps() {
			if s.Why != "" {
				spoken++
			}
			assert.NotRegexp(t, figureOfACar, s.Why, "%s, %s", r.ID, s.ID)
		}
	}
	assert.Greater(t, spoken, 300)
}
