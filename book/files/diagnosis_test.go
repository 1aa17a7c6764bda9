package files

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/shop"
	"handwerk/core/diagnosis"
	"handwerk/workshop/kinds"
)

// shipped is loaded once: no test changes it.
var shipped = sync.OnceValues(func() (book.Book, error) { return Load(kinds.Natures(), shop.Files, demo.Files) })

func shippedBook(t testing.TB) book.Book {
	t.Helper()
	b, err := shipped()
	require.NoError(t, err)
	return b
}

// unitBook is what a rebuild of a kind of unit reasons with.
func unitBook(b book.Book, kind string) book.Copy {
	is := func(units []string) bool { return slices.Contains(units, kind) }
	var c book.Copy
	for _, x := range b.Causes {
		if is(x.Units) {
			c.Causes = append(c.Causes, x)
		}
	}
	for _, x := range b.Tests {
		if is(x.Units) {
			c.Tests = append(c.Tests, x)
		}
	}
	return c
}

func TestTheBookIsRichEnough(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	tests := 0
	for _, x := range b.Tests {
		if x.Minutes > 0 {
			tests++
		}
	}
	assert.GreaterOrEqual(t, len(b.Causes), 50)
	assert.GreaterOrEqual(t, tests, 50)
	for _, x := range b.Causes {
		spoken := 0
		for _, test := range b.Tests {
			if _, ok := test.Given[x.ID]; ok && test.Minutes > 0 {
				spoken++
			}
		}
		assert.NotZero(t, spoken, "no test speaks of %s", x.ID)
	}
}

// saw reads "test: outcome", one of each.
func saw(said ...string) []diagnosis.Seen {
	var list []diagnosis.Seen
	for _, x := range said {
		test, outcome, _ := strings.Cut(x, ": ")
		list = append(list, diagnosis.Seen{Test: test, Outcome: outcome})
	}
	return list
}

// The rules of the trade's section on diagnosis, all common practice: what the
// customer says and what the tests show; the cause that must lead.
func TestRulesOfTheTrade(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	tests := []struct {
		name  string
		unit  string
		seen  []diagnosis.Seen
		leads []string // any of these
	}{
		{"will not release, the fork moves but only just: a cylinder", "clutch",
			saw("complaint-clutch: no-release", "fluid-level: full", "fork-travel: little"),
			[]string{"master-cylinder", "slave-cylinder"}},
		{"will not release, full travel: disc, splines, pilot bearing or housing", "clutch",
			saw("complaint-clutch: no-release", "fluid-level: full", "fork-travel: full", "reverse-grind: grinds"),
			[]string{"splines-rusted", "disc-warped", "pilot-bearing", "housing-misaligned"}},
		{"seized clutch with pieces at the hole: damper spring between the plates", "clutch",
			saw("complaint-clutch: no-release", "fork-travel: full", "housing-hole: pieces"),
			[]string{"damper-spring-lodged"}},
		{"rattle at idle goes away with the pedal: dual-mass flywheel", "clutch",
			saw("complaint-clutch: rattles", "noise-with-pedal: gone-down"), []string{"dual-mass-worn"}},
		{"noise comes with the pedal: release bearing", "clutch",
			saw("complaint-clutch: noise", "noise-with-pedal: comes-down"), []string{"release-bearing"}},
		{"slips, takes up near the top: lining", "clutch",
			saw("complaint-clutch: slips", "stall-hold: slips", "biting-point: high"), []string{"lining-worn"}},
		{"slips and judders, oil at the hole: oil on the lining", "clutch",
			saw("complaint-clutch: judders", "housing-hole: oily"), []string{"lining-oiled"}},
		{"judders when hot: hot spots", "clutch",
			saw("complaint-clutch: judders", "start-card: judders-hot", "housing-hole: dry"),
			[]string{"flywheel-spots"}},
		{"too much free play, frayed cable: the cable", "clutch",
			saw("complaint-clutch: no-release", "free-play: much", "cable-run: frayed"), []string{"cable-worn"}},
		{"pedal to the floor, good level: master cylinder", "pedal hydraulics",
			saw("complaint-hydraulics: floor", "fluid-level: full", "cylinders-wet: dry"), []string{"master-cylinder"}},
		{"soft, pumping firms it: air", "pedal hydraulics",
			saw("complaint-hydraulics: spongy", "pump-pedal: firms"), []string{"air-in-line"}},
		{"goes in with the engine off but not on: clutch drag", "manual gearbox",
			saw("complaint-gearbox: refuses", "gears-engine-off: all", "gears-standing: grinds-all"),
			[]string{"clutch-drags"}},
		{"first and second refuse, go in after third: synchronisers", "manual gearbox",
			saw("complaint-gearbox: refuses", "gears-standing: low-refuse", "third-first: goes-in"),
			[]string{"synchro-worn"}},
		{"stiff only when cold: oil or boot", "manual gearbox",
			saw("complaint-gearbox: refuses", "cold-and-warm: stiff-cold"), []string{"oil-too-thick", "boot-stiff"}},
		{"will not line up at all: linkage", "manual gearbox",
			saw("complaint-gearbox: refuses", "gears-engine-off: cannot-find"),
			[]string{"linkage-set-wrong", "linkage-bushes", "linkage-clamp"}},
		{"crunches, brass in the oil of the wrong class: eaten bronze", "manual gearbox",
			saw("complaint-gearbox: crunches", "oil-look: brass", "gears-rolling: all-crunch"),
			[]string{"oil-eats-bronze"}},
		{"jumps out, knocks lengthways: the shaft floats", "manual gearbox",
			saw("complaint-gearbox: jumps-out", "flange-push-pull: knocks"), []string{"shaft-floats"}},
		{"lever leans in neutral: adjustment", "shift linkage",
			saw("complaint-linkage: will-not-line-up", "lever-upright: leans", "gate-distances: unequal",
				"clamp-mark: in-line"), []string{"linkage-set-wrong"}},
		{"lever flops about: bushes", "shift linkage",
			saw("complaint-linkage: loose", "lever-upright: loose"), []string{"linkage-bushes"}},
		{"whine on drive: contact on the drive side", "differential",
			saw("complaint-axle: whines", "whine-card: drive"), []string{"contact-drive"}},
		{"whine on coast: contact on the coast side", "differential",
			saw("complaint-axle: whines", "whine-card: coast"), []string{"contact-coast"}},
		{"growing whine, oil cooked, no chips: pinion bearing", "differential",
			saw("complaint-axle: whines", "whine-card: growing", "oil-look: burnt", "magnet: paste"),
			[]string{"pinion-bearing"}},
		{"the other wheel turns back: plates worn out", "differential",
			saw("complaint-axle: one-spins", "one-wheel: acts-open"), []string{"plates-worn"}},
		{"the other wheel stands: something broken", "differential",
			saw("complaint-axle: no-drive", "one-wheel: nothing"), []string{"axle-shaft-broken", "side-gears-broken"}},
		{"half a turn at the flange, metal on the magnet: broken gears", "differential",
			saw("complaint-axle: knocks", "flange-turn: half-turn", "magnet: piece"), []string{"side-gears-broken"}},
		{"drives only with the lock in, nothing more known: a broken branch", "differential",
			saw("complaint-axle: no-drive", "lock-in-drive: only-in"),
			[]string{"axle-shaft-broken", "side-gears-broken", "inter-axle-broken"}},
		{"drives only with the lock in, shafts whole: failure in the carrier", "differential",
			saw("complaint-axle: no-drive", "lock-in-drive: only-in", "shafts-drawn: whole", "one-wheel: nothing"),
			[]string{"side-gears-broken"}},
		{"chatters in bends: modifier", "differential",
			saw("complaint-axle: knocks", "bends: chatters"), []string{"no-modifier"}},
		{"both front wheels turn, only the propshaft spins: the pack slips", "transfer case",
			saw("complaint-transfer: no-four", "engine-off-lock: propshaft-spins"), []string{"wet-pack-slips"}},
		{"bangs under load, shaft knocks: dog clutch", "transfer case",
			saw("complaint-transfer: bangs", "flange-push-pull: knocks"), []string{"dog-clutch-jumps"}},
		{"stuck, supply good, turns by hand: the motor", "transfer case",
			saw("complaint-transfer: stuck", "motor-supply: both", "selector-by-hand: turns"), []string{"shift-motor"}},
		{"stuck, will not turn by hand: the case itself", "transfer case",
			saw("complaint-transfer: stuck", "motor-supply: both", "selector-by-hand: will-not"),
			[]string{"selector-seized"}},
		{"stuck, no supply: the wiring", "transfer case",
			saw("complaint-transfer: stuck", "motor-supply: none", "connectors: all"), []string{"motor-supply"}},
		{"coupling unequal both ways: its one-way clutch", "transfer case",
			saw("complaint-transfer: no-four", "creep-torque: creeps", "creep-both-ways: unequal"),
			[]string{"one-way-failed"}},
		{"coupling free, stays cool: empty", "transfer case",
			saw("complaint-transfer: no-four", "creep-torque: free", "stall-heat: stays-cool"),
			[]string{"coupling-empty"}},
		{"binds, will not creep: seized", "transfer case",
			saw("complaint-transfer: binds", "creep-torque: solid"), []string{"coupling-seized"}},
	}
	for _, tt := range tests {
		t.Run(tt.name, func(t *testing.T) {
			out, err := diagnosis.Diagnose(unitBook(b, tt.unit).Reason(tt.seen, nil))
			require.NoError(t, err)
			require.Nil(t, out.Clash)
			assert.Contains(t, tt.leads, out.Causes[0].ID, "%s\n%+v", out.Says, out.Causes[:4])
		})
	}
}

// Stories that a book of sums can lead astray, all common practice: what was
// said and seen on a route, and the order that must lead, or the one that must
// not be placed yet.
func TestStoriesThatLeadAstray(t *testing.T) {
	t.Parallel()
	b := shippedBook(t)
	for _, tt := range []struct {
		name   string
		route  string
		sheet  string
		seen   []diagnosis.Seen
		leads  []string // any of these causes
		second string   // one of the two likeliest
		least  float64  // of the leading order
		open   bool     // enough is not known
		allows func(diagnosis.NextTest) bool
	}{
		{name: "axle whines, nothing tested: no order yet", route: "axle-ring-pinion", sheet: "brakka-a9",
			seen: saw("complaint-axle: whines"), open: true},
		{name: "growing whine with steel and chips: pinion bearing", route: "axle-ring-pinion", sheet: "brakka-a9",
			seen:  saw("complaint-axle: whines", "whine-card: growing", "oil-look: steel", "magnet: chips"),
			leads: []string{"pinion-bearing"}},
		{name: "leak in front, the flange rocks: lost preload, not the seal alone", route: "axle-ring-pinion",
			sheet: "brakka-a9",
			seen:  saw("complaint-axle: leaks", "leak-place: front", "flange-push-pull: rocks"),
			leads: []string{"pinion-preload-lost"}},
		{name: "clunk, the flange knocks, leak in front: the same cause", route: "axle-ring-pinion", sheet: "brakka-a9",
			seen:  saw("complaint-axle: knocks", "flange-push-pull: knocks", "leak-place: front"),
			leads: []string{"pinion-preload-lost"}},
		{name: "a wheel stands, no drive: nothing that must be driven comes next", route: "axle-ring-pinion",
			sheet:  "brakka-a9",
			seen:   saw("complaint-axle: no-drive", "one-wheel: nothing"),
			leads:  []string{"axle-shaft-broken", "side-gears-broken"},
			allows: func(n diagnosis.NextTest) bool { return !slices.Contains(n.Needs, "driveable") }},
		{name: "drives only with the lock in: a broken branch, not the lock", route: "axle-power-divider",
			sheet: "norrel-td",
			seen:  saw("complaint-axle: no-drive", "lock-in-drive: only-in"),
			leads: []string{"axle-shaft-broken", "side-gears-broken", "inter-axle-broken"}},
		{name: "drives only with the lock out: the divider or its lock", route: "axle-power-divider",
			sheet: "norrel-td",
			seen:  saw("complaint-axle: no-drive", "lock-in-drive: only-out"),
			leads: []string{"inter-axle-broken", "lock-actuator"}},
		{name: "a helical unit acts open on the stand: sound without load", route: "axle-torque-biasing",
			sheet: "holm-a7",
			seen:  saw("complaint-axle: other", "one-wheel: as-built"), open: true},
		{name: "dog case stuck in gear, free when unloaded: wound up", route: "transfer-case-dog", sheet: "brakka-t2",
			seen: saw("complaint-transfer: stuck", "unload: comes"), leads: []string{"wind-up"}},
		{name: "dog case stuck, the case selects by itself: lever", route: "transfer-case-dog", sheet: "brakka-t2",
			seen:  saw("complaint-transfer: stuck", "unload: same", "range-lever: lever"),
			leads: []string{"range-linkage"}},
		{name: "dog case stuck, nothing tested: no rebuild ordered", route: "transfer-case-dog", sheet: "brakka-t2",
			seen: saw("complaint-transfer: stuck"), open: true},
		{name: "binds on hard ground, tyres unequal", route: "transfer-case-dog", sheet: "brakka-t2",
			seen: saw("complaint-transfer: binds", "tyres: unequal"), leads: []string{"tyres-unequal"}},
		{name: "binds in two-wheel drive too: it stays engaged", route: "transfer-case-dog", sheet: "brakka-t2",
			seen:  saw("complaint-transfer: binds", "tyres: equal", "binds-in-two: binds"),
			leads: []string{"stays-engaged"}},
		{name: "binds only where it has to: normal", route: "transfer-case-dog", sheet: "brakka-t2",
			seen:  saw("complaint-transfer: binds", "tyres: equal", "binds-in-two: free", "wind-up: binds"),
			leads: []string{"binds-normal"}},
		{name: "bangs without float: teeth, fork or detent", route: "transfer-case-dog", sheet: "brakka-t2",
			seen:  saw("complaint-transfer: bangs", "flange-push-pull: tight", "four-wheel-card: bangs"),
			leads: []string{"dog-teeth-rounded"}},
		{name: "lamp flickers: switch or supply, not the seal", route: "transfer-case-motor", sheet: "holm-em",
			seen:  saw("complaint-transfer: lamp", "lamp-wire: switch"),
			leads: []string{"lamp-switch", "motor-supply", "connector-hanging"}},
		{name: "the pack holds by hand but slips driven: the pack", route: "transfer-case-wet-pack", sheet: "norrel-p3",
			seen:  saw("complaint-transfer: no-four", "engine-off-lock: as-built", "four-wheel-card: no-drive"),
			leads: []string{"wet-pack-slips", "pack-springs"}},
		{name: "rumble that goes with the pedal down: input bearing or disc damper", route: "clutch-hydraulic",
			sheet: "skerry-c228",
			seen:  saw("complaint-clutch: rattles", "noise-with-pedal: rumble-gone-down"),
			leads: []string{"input-bearing", "disc-damper"}},
		{name: "slips with little free play: adjust first", route: "clutch-cable", sheet: "tarn-180",
			seen:  saw("complaint-clutch: slips", "free-play: little"),
			leads: []string{"free-play-wrong", "port-closed"}},
		{name: "stood all winter, full travel, no release: disc stuck to the flywheel", route: "clutch-hydraulic",
			sheet: "skerry-c228",
			seen:  saw("complaint-clutch: no-release", "fork-travel: full", "stood: stood"),
			leads: []string{"disc-stuck"}},
		{name: "stuck, supply good, turned by hand: the motor, nearly sure", route: "transfer-case-motor",
			sheet: "holm-em",
			seen:  saw("complaint-transfer: stuck", "motor-supply: both", "selector-by-hand: turns"),
			leads: []string{"shift-motor"}, least: 0.85},
		// What led astray before, by kind.
		{name: "slips, the hose keeps pressure: hose or port", route: "clutch-hydraulic", sheet: "skerry-c228",
			seen:  saw("complaint-clutch: slips", "hose-felt: holds"),
			leads: []string{"hose-swollen", "port-closed"}, second: "hose-swollen"},
		{name: "firm, dry, little travel, pivot worn through: the fork", route: "clutch-hydraulic",
			sheet: "skerry-c228", seen: saw("complaint-clutch: no-release", "pedal-feel: firm", "cylinders-wet: dry",
				"fork-travel: little", "bled-once: same", "fork-boot: worn"), leads: []string{"fork-worn"}, least: 0.6},
		{name: "bangs, a piece on the magnet: a case, no gearbox", route: "transfer-case-wet-pack", sheet: "norrel-p3",
			seen:  saw("complaint-transfer: bangs", "magnet: piece", "flange-push-pull: knocks"),
			leads: []string{"case-circlip"}},
		{name: "slips, stalls not, little play, set and cured: no kit", route: "clutch-cable", sheet: "tarn-180",
			seen:  saw("complaint-clutch: slips", "stall-hold: slips", "free-play: little", "free-play-set: cured"),
			leads: []string{"free-play-wrong"}, least: 0.8},
		{name: "one gear crunches and reverse grinds: drag first", route: "gearbox-longitudinal", sheet: "brakka-g5",
			seen:  saw("complaint-gearbox: crunches", "gears-rolling: crunches", "reverse-grind: grinds"),
			leads: []string{"clutch-drags"}},
		{name: "the bulkhead is seen to give: almost certain", route: "pedal-hydraulics", sheet: "skerry-h19",
			seen:  saw("complaint-hydraulics: late", "box-watched: gives"),
			leads: []string{"pedal-box-flexes"}, least: 0.75},
		{name: "a rod of another length: almost certain", route: "pedal-hydraulics", sheet: "skerry-h19",
			seen:  saw("complaint-hydraulics: late", "push-rod-length: other"),
			leads: []string{"push-rod-wrong"}, least: 0.75},
		{name: "a wet pack binds always, no pressure at its port", route: "transfer-case-wet-pack", sheet: "norrel-p3",
			seen:  saw("complaint-transfer: binds", "binds-in-two: binds", "port-pressure: none"),
			leads: []string{"pack-held"}},
		{name: "leaks at the front of a gearbox: a seal, not its level", route: "gearbox-longitudinal",
			sheet: "brakka-g5", seen: saw("complaint-gearbox: leaks", "leak-place: front", "oil-look: low"),
			leads: []string{"input-seal"}},
		{name: "leaks at a joint", route: "gearbox-longitudinal", sheet: "brakka-g5",
			seen: saw("complaint-gearbox: leaks", "leak-place: joint"), leads: []string{"case-joint"}},
		{name: "oil at a wheel", route: "axle-ring-pinion", sheet: "brakka-a9",
			seen: saw("complaint-axle: leaks", "leak-place: wheel"), leads: []string{"hub-seal"}, least: 0.8},
		{name: "no drive in any gear", route: "gearbox-longitudinal", sheet: "brakka-g5",
			seen: saw("complaint-gearbox: no-drive", "input-turned: free"), leads: []string{"shaft-sheared"}},
		{name: "locked in two gears", route: "gearbox-longitudinal", sheet: "brakka-g5",
			seen: saw("complaint-gearbox: locked", "input-turned: locked"), leads: []string{"interlock"}},
		{name: "stiff only cold, lever and linkage", route: "shift-linkage", sheet: "holm-l5",
			seen:  saw("complaint-linkage: stiff", "cold-and-warm: stiff-cold", "boot-lifted: same"),
			leads: []string{"oil-too-thick", "cable-frozen"}},
		{name: "a viscous case binds, tyres and creep are right", route: "transfer-case-viscous", sheet: "oyle-vc",
			seen:  saw("complaint-transfer: binds", "tyres: equal", "creep-torque: creeps", "ratios-counted: unequal"),
			leads: []string{"ratios-unequal"}, least: 0.8},
		{name: "one wheel spins: it still drives, and is tested driven", route: "axle-limited-slip",
			sheet: "brakka-a9s", seen: saw("complaint-axle: one-spins"), leads: []string{"plates-worn"}, open: true},
		{name: "full travel and no release: the gearbox comes off, whichever it is", route: "clutch-hydraulic",
			sheet: "skerry-c228",
			seen: saw("complaint-clutch: no-release", "fork-travel: full", "reverse-grind: grinds",
				"pedal-feel: firm", "stood: no", "pump-pedal: same", "biting-point: middle"), least: 0.9},
		{name: "brass in a transfer case orders no gearbox", route: "transfer-case-dog", sheet: "brakka-t2",
			seen: saw("complaint-transfer: noise", "oil-look: brass"), leads: []string{"case-bronze"}},
	} {
		t.Run(tt.name, func(t *testing.T) {
			c, err := b.Copy(tt.route, tt.sheet)
			require.NoError(t, err)
			out, err := diagnosis.Diagnose(c.Reason(tt.seen, nil))
			require.NoError(t, err)
			require.Nil(t, out.Clash)
			said := fmt.Sprintf("%s, %s at %.2f\n%+v", out.Says, out.Action, out.ActionP, out.Causes[:4])
			if len(tt.leads) > 0 {
				assert.Contains(t, tt.leads, out.Causes[0].ID, said)
			}
			assert.GreaterOrEqual(t, out.ActionP, tt.least, said)
			assert.True(t, tt.second == "" || tt.second == out.Causes[0].ID || tt.second == out.Causes[1].ID, said)
			if tt.open {
				assert.False(t, out.Enough, said)
			}
			for _, n := range out.Next {
				assert.True(t, tt.allows == nil || tt.allows(n), n.Says)
			}
			if strings.HasPrefix(tt.route, "transfer") {
				assert.NotContains(t, out.Action, "gearbox")
			}
		})
	}
}

func BenchmarkLoad(b *testing.B) {
	for b.Loop() {
		if _, err := Load(kinds.Natures(), shop.Files); err != nil {
			b.Fatal(err)
		}
	}
}
