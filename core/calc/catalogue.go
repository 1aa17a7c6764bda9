package calc

import (
	"slices"

	"handwerk/core/decision"
	"handwerk/core/diagnosis"
	"handwerk/core/driveline"
	"handwerk/core/metrology"
	"handwerk/core/ringpinion"
	"handwerk/core/runout"
	"handwerk/core/shim"
)

const (
	gum      = "JCGM 100:2008 (GUM) 4.2, 4.3.7, annex G"
	iso14253 = "ISO 14253-1:2017 (decision rule, idea of)"
	practice = "common practice"
)

// All is the catalogue, in the order of the work. A new calculator is one
// entry in the chapter it belongs to.
func All() Catalogue {
	return newCatalogue(slices.Concat(reasoning(), measuring(), settingGears(), gears(), fluids(), clutches(),
		playAndPlates(), fasteners(), shafts())...)
}

func reasoning() []Calculator {
	return []Calculator{
		define(About{
			Name: "diagnose", Version: 2,
			Purpose: "what a complaint and the outcomes of tests mean: likely causes, the next test worth its " +
				"minutes, and when enough is known",
			Formula: "P(h | seen) ∝ P(h)·Π P(outcome | h) over single causes and pairs; next = the best chance per " +
				"minute to change the order or make it sure, then most bits per minute; enough = a test of the " +
				"shop's own, the order at 0.9, and no remaining test changes it",
			Assumes: "outcomes independent given the cause; up to 80 causes and 100 tests; probabilities are " +
				"judgement, shifted by the shop's confirmed cases",
			Sources: []string{"Bayes", "Shannon (1948)", "noisy-or, Pearl (1988)", practice},
		}, diagnosis.Diagnose),
		define(About{
			Name: "driveline", Version: 2,
			Purpose: "which broken, stuck or worn members explain what turned and what stood when a wheel or shaft " +
				"was turned, and which are cleared",
			Formula: "least Σ R·|ω| under ω_a = i·ω_b and ω_c = s·ω_a + (1−s)·ω_b; every single failure, and pairs " +
				"of which neither half explains all",
			Assumes: "turned slowly; friction torques of a free shaft, plates, a coupling and a wheel on the ground " +
				"far apart; up to 60 members, 12 of them differentials, viscous or one-way clutches",
			Sources: []string{"kinematics of the bevel differential", "minimal diagnoses, Reiter (1987)",
				"coupling creeps at 50 to 60 N·m: " + practice},
		}, driveline.Driveline),
		define(About{
			Name: "driveline-drawing", Version: 1,
			Purpose: "where the members of a driveline stand on paper: seen from above, front at the left, the left " +
				"side below",
			Formula: "tree over shafts and members: the source above the first parting, front and rear to its sides, " +
				"the sides of an axle across; bands of their own, so that nothing overlaps or crosses",
			Assumes: "front, rear, left, right are told by the names of wheels; what closes a ring finds its way " +
				"between all others and crosses nothing where that can be",
			Sources: []string{"layered drawing of trees, Reingold and Tilford (1981), simplified"},
		}, driveline.Draw),
		define(About{
			Name: "decide", Version: 1,
			Purpose: "which way to go: repair, rebuild here, exchange, send out or replace; what it costs, and the " +
				"day to promise",
			Formula: "cost = parts + fluids + outside work + hours·rate + standing days + a failure if one falls " +
				"due; days = max(waiting, hours ahead/hours per day) + hours/hours per day; drawn 20,000 times from " +
				"triangular or even ranges, seeded",
			Assumes: "inputs independent of one another; work promised before is done while one waits; the day that " +
				"holds in 80 % of the draws is promised",
			Sources: []string{"Monte Carlo", practice},
		}, decision.Decide),
	}
}

func measuring() []Calculator {
	return []Calculator{
		define(About{
			Name: "reading-set", Version: 1,
			Purpose: "what a set of readings says: mean, uncertainty and verdict against the limits",
			Formula: "u_A = s/√n, u_res = d/(2√3), u_mpe = MPE/√3, U = t(ν, p)·√Σu²",
			Assumes: "independent readings of one thing, 1 to 1000 of them; one reading rests on the instrument's " +
				"recorded repeatability",
			Sources: []string{gum, iso14253},
		}, metrology.ReadingSet),
		define(About{
			Name: "end-float", Version: 2,
			Purpose: "push-pull readings of a shaft: float, the pack it needs, and which shims of the drawer make it",
			Formula: "pack = trial + float − target where a pack takes float away; the other sign where it adds " +
				"float",
			Assumes: "the shaft seats at both ends; a float that is out and beyond its target by a listed washer, " +
				"within 10 % of it, suggests that it is missing",
			Sources: []string{"geometry", gum, "missing washer at 10 %: " + practice},
		}, shim.EndFloat),
		define(About{
			Name: "shim-pack", Version: 1,
			Purpose: "the packs of the drawer that come nearest to a thickness, with fewest shims",
			Formula: "least |sum − required|, then fewest shims, then fewest thin ones",
			Assumes: "up to 200 sizes and 10 shims, up to 50 mm; thin is below 0.10 mm unless said",
			Sources: []string{"bounded dynamic programming on a 1 µm grid, exact optimum"},
		}, shim.FindPack),
		define(About{
			Name: "runout", Version: 2,
			Purpose: "where a bore or register stands against the axis the indicator turns round",
			Formula: "r = r0 + a·sin t + b·cos t by least squares; inside the centre is (−a, −b); sag S·(1 − cos " +
				"t)/2 off first",
			Assumes: "clock positions seen from behind the engine; offsets small against the radius; three places at " +
				"least",
			Sources: []string{"least squares circle, first harmonic", "total reading is twice the offset: " + practice},
		}, runout.Runout),
		define(About{
			Name: "bellhousing", Version: 2,
			Purpose: "which offset dowels, turned where, bring a bell housing onto the crankshaft",
			Formula: "rigid motion for dowel offsets d1, d2: ω = (p1−p2)×(d1−d2)/|p1−p2|², bind = " +
				"(d1−d2)·(p1−p2)/|p1−p2|, move = mean(d) − ω×mean(p)",
			Assumes: "two dowels; sizes and clock positions on a grid, then refined; dowels turned to within 3° " +
				"by eye",
			Schools: "both dowels turned alike (pure shift) and each its own way (shift with a small twist) stand " +
				"side by side",
			Sources: []string{"plane rigid-body kinematics",
				"0.005 in offset, 0.002 in hole tolerance, dowels of 0.007, 0.014, 0.021 in: " + practice},
		}, runout.Bellhousing),
	}
}

func settingGears() []Calculator {
	agma := "bevel gear geometry as in ANSI/AGMA 2005 (from memory)"
	return []Calculator{
		define(About{
			Name: "pinion-depth", Version: 1,
			Purpose: "which shim brings a pinion to its mounting distance",
			Formula: "required = nominal + mark; measured = gauge + constant; shim = trial + (measured − required) " +
				"under the head bearing; by marks: old shim + (old mark − new mark)",
			Assumes: "marks in units of length; the shim side decides the sign",
			Schools: "depth tool, or the marks of old and new pinion: both answers side by side, their difference " +
				"named",
			Sources: []string{"geometry", practice},
		}, ringpinion.PinionDepth),
		define(About{
			Name: "bearing-preload", Version: 2,
			Purpose: "turning torque of a pinion: in the range, and how far the nut may go on a crush sleeve",
			Formula: "preload = mean − seal drag; the sleeve's rise by least squares over its last steps",
			Assumes: "turned slowly and smoothly; a sleeve over the limit is scrap",
			Sources: []string{gum, practice},
		}, ringpinion.BearingPreload),
		define(About{
			Name: "backlash", Version: 3,
			Purpose: "backlash round the ring, and how far to move the carrier from one side pack to the other",
			Formula: "Δ = (target − mean)/k; k = 2·tan φ·sin Γ/cos ψ along the pitch circle, 2·sin φ·sin Γ square to " +
				"the flank, or 0.7; refined by the rebuild's own trials",
			Assumes: "three places or more; small moves; the packs' sum, the preload, stays",
			Schools: "0.7 where the angles are unknown",
			Sources: []string{agma, "0.7: " + practice},
		}, ringpinion.Backlash),
		define(About{
			Name: "pattern", Version: 2,
			Purpose: "what a contact pattern asks for: which shim, which way, a first step",
			Formula: "weighted least squares of pinion and ring error from the middles of both flanks' patterns, the " +
				"drive flank leading",
			Assumes: "u from toe −1 to heel +1, v from root −1 to face +1; slightly to the toe is good unloaded; " +
				"tapering and even tooth depth move differently; crossed is face on one flank and root on the other",
			Sources: []string{practice + ", qualitative charts agree"},
		}, ringpinion.Pattern),
		define(About{
			Name: "ring-pinion", Version: 3,
			Purpose: "from all trials so far, the single next assembly of a ring and pinion and what it should read",
			Formula: "depth and sum of packs averaged over the trials; backlash = b0 + k·place + m·shim by least " +
				"squares with the geometry as a first guess",
			Assumes: "small errors, linear near the right place; each trial has a depth or a pattern",
			Sources: []string{agma, practice},
		}, ringpinion.RingPinion),
	}
}
