package calc

import (
	"handwerk/core/clutch"
	"handwerk/core/fastener"
	"handwerk/core/fit"
	"handwerk/core/fluid"
	"handwerk/core/gearing"
	"handwerk/core/shaft"
)

const shigley = "Shigley, Mechanical Engineering Design"

func gears() []Calculator {
	return []Calculator{
		define(About{
			Name: "gearing", Version: 1,
			Purpose: "what a set of gears does on the road: speeds, steps, crawl ratio, and beside another set",
			Formula: "speed = engine speed/(gear·range·final)·rolling circumference; crawl = lowest " +
				"gear·range·final; hunting when tooth counts share no divisor",
			Assumes: "rolling circumference = free diameter·0.96·π unless measured",
			Sources: []string{"kinematics", "4 % loss of a loaded tyre: " + practice},
		}, gearing.Gearing),
		define(About{
			Name: "shift-matrix", Version: 1,
			Purpose: "which pattern a gearbox shows that was tried in every gear: drag, synchronisers, linkage, " +
				"thick oil, detent; and what a repair has changed",
			Formula: "in with the engine off but not standing: drag; refuses standing, in after another gear has " +
				"stopped the shafts or while rolling: its synchroniser; stiff cold, right warm: oil or " +
				"boot; a plane of the gate refuses in every state: linkage; jumps out: detent, wear or " +
				"travel",
			Assumes: "a clutch that drags does it to all gears; cells that were not tried say nothing; the gate " +
				"pairs the gears in order unless planes are given",
			Sources: []string{practice},
		}, gearing.ShiftMatrix),
		define(About{
			Name: "noise-orders", Version: 1,
			Purpose: "which shaft, mesh or bearing could make a tone heard at a road speed",
			Formula: "mesh = teeth·turns; BPFO, BPFI = n/2·(1 ∓ d/D·cos φ), BSF = D/2d·(1 − (d/D·cos φ)²), FTF = " +
				"½(1 − d/D·cos φ)",
			Assumes: "no slip; a fit is a suspicion, not a proof; up to the third harmonic",
			Sources: []string{"rolling kinematics, Harris, Rolling Bearing Analysis (from memory)"},
		}, gearing.NoiseOrders),
		define(About{
			Name: "running-in", Version: 1,
			Purpose: "speed caps per gear from one engine speed, stages by distance, and the fluid change",
			Formula: "cap of a gear = cap in top·top ratio/its ratio·share of the stage",
			Assumes: "gears in order, top last; stages that loosen",
			Sources: []string{"500 miles at 30/17/10 mph with 1/1.765/3.07: " + practice},
		}, gearing.PlanRunningIn),
	}
}

func fluids() []Calculator {
	return []Calculator{
		define(About{
			Name: "fluid", Version: 2,
			Purpose: "which class of fluid goes in, ranked with reasons; what must not",
			Formula: "rules with scores and hard stops, each with its reason",
			Assumes: "classes, never brands; the maker's call outranks the schools, but no hard stop",
			Schools: "GL-4 for yellow metals; straight mineral oil in old boxes; the maker's ATF; manual " +
				"transmission fluid; engine oil as a stop-gap",
			Sources: []string{practice, "API 1560 and SAE J306 (from memory)"},
		}, fluid.Choose),
		define(About{
			Name: "viscosity", Version: 1,
			Purpose: "how thick an oil is at a temperature, and which grade that makes it",
			Formula: "log log(ν + 0.7) = A − B·log T through two points",
			Assumes: "from 2 mm²/s up; −60 to 200 °C; gear and engine grades are different scales",
			Sources: []string{"ASTM D341-17, simplified form", "SAE J306-2005 and J300 (from memory)"},
		}, fluid.ViscosityAt),
		define(About{
			Name: "fill", Version: 2,
			Purpose: "how much goes in, how many fills flush the old oil out, and the cheapest cans",
			Formula: "old share after n fills = (residue/capacity)^n; cans by exact search on a grid of 10 mL",
			Assumes: "the old oil mixes fully with each fill; about half a litre may stay behind (" + practice + ")",
			Sources: []string{"dilution", "dynamic programming"},
		}, fluid.FillPlan),
	}
}

func clutches() []Calculator {
	return []Calculator{
		define(About{
			Name: "clutch-capacity", Version: 1,
			Purpose: "which of several clutches holds the engine, and which is the mildest that does",
			Formula: "T = N·μ·F·r_m; uniform wear (ro+ri)/2, uniform pressure ⅔(ro³−ri³)/(ro²−ri²); a worn disc " +
				"by the disc spring's curve",
			Assumes: "judged by uniform wear, that of a run-in disc; service factor 1.3 unless said",
			Schools: "organic +25 %, puck +40 %, twin disc x2 over stock are paid with harshness",
			Sources: []string{shigley + ", ch. 16", "EN 16984 / DIN 2092 disc spring", practice},
		}, clutch.Capacity),
		define(About{
			Name: "clutch-release", Version: 2,
			Purpose: "whether the pedal lifts the plate far enough, and what is lost on the way",
			Formula: "(pedal − free play)/pedal ratio·(Dm/Ds)²/fork/diaphragm/faces",
			Assumes: "rigid levers, fluid without air; a measured slave travel tells the fluid that is lost",
			Sources: []string{"lever law, incompressible fluid"},
		}, clutch.Release),
		define(About{
			Name: "clutch-wear", Version: 1,
			Purpose: "how much of a disc is left, and for how far",
			Formula: "share = (now − limit)/(new − limit); distance in proportion to the wear so far",
			Assumes: "wear in proportion to distance; town and towing wear faster",
			Sources: []string{practice},
		}, clutch.DiscWear),
	}
}

func playAndPlates() []Calculator {
	return []Calculator{
		define(About{
			Name: "free-play", Version: 1,
			Purpose: "how many flats of the adjuster bring pedal or cable to its free play",
			Formula: "turns = (middle of wanted − measured)/(ratio·pitch)",
			Assumes: "new bushes first; measured at the pedal",
			Sources: []string{"20 to 25 mm at the pedal: " + practice},
		}, clutch.FreePlay),
		define(About{
			Name: "plate-stack", Version: 1,
			Purpose: "how a limited slip's plates stack up: pre-compression, spring force, left against right, " +
				"breakaway",
			Formula: "height = Σ plates; pressed = height + springs − depth; force by the disc-spring curve; " +
				"breakaway N·μ·F·r against lever·weight",
			Assumes: "springs in series, pressed short of flat",
			Sources: []string{"EN 16984 / DIN 2092", "the cover stands about 6 mm proud: " + practice},
		}, clutch.PlateStack),
		define(About{
			Name: "slip-torque", Version: 2,
			Purpose: "creep or breakaway torque from force and arm, both ways round",
			Formula: "T = F·arm; both ways alike within 15 %, or one free, by what stands in series",
			Assumes: "turned slowly by hand, square to the arm",
			Sources: []string{gum, "a viscous coupling creeps at 50 to 60 N·m: " + practice},
		}, clutch.SlipTorque),
	}
}

func fasteners() []Calculator {
	return []Calculator{
		define(About{
			Name: "torque-plan", Version: 1,
			Purpose: "order, passes and wrench settings for a group of bolts",
			Formula: "each next bolt as far as possible from those just tightened",
			Assumes: "up to 100 bolts; 50 % and 100 %, then a check round, unless said",
			Sources: []string{"cross pattern in at least two passes: " + practice},
		}, fastener.TorquePlan),
		define(About{
			Name: "bolt", Version: 1,
			Purpose: "what a bolt stands, and the torque that clamps with a share of it",
			Formula: "As = π/4·(d − 0.9382·P)², proof = As·Sp, T = K·d·F, turn from snug = 360°·F·L/(As·E·P)",
			Assumes: "metric threads; K by lubrication scatters by a quarter and more",
			Sources: []string{"ISO 898-1:2013 (from memory)", shigley + ", ch. 8"},
		}, fastener.BoltTorque),
		define(About{
			Name: "tap-drill", Version: 1,
			Purpose: "the drill before a tap",
			Formula: "d − P",
			Assumes: "about three quarters of the full thread",
			Sources: []string{"M14 x 1.5 in a 12.5 mm hole: " + practice},
		}, fastener.TapDrill),
		define(About{
			Name: "wrench-adapter", Version: 1,
			Purpose: "the wrench's setting with an extension across it",
			Formula: "setting = T·L/(L + a·cos θ)",
			Assumes: "the hand pulls at the middle of the grip, square to the wrench",
			Sources: []string{"lever law"},
		}, fastener.WrenchAdapter),
	}
}

func shafts() []Calculator {
	return []Calculator{
		define(About{
			Name: "joints", Version: 3,
			Purpose: "how unevenly a chain of cross joints turns",
			Formula: "ω2/ω1 = cos β/(1 − sin²β·cos²θ); peak to peak sin β·tan β; tan²β = tan² side + tan² plan, " +
				"leaning by φ = atan2(tan plan, tan side); chain β_R² = |Σ ±β²·e^(2iφ)|",
			Assumes: "to 45° at a joint: as angle_deg, all in one plane, or as side_deg and plan_deg, read from " +
				"the side and from above, whose planes may lean against each other; forks in phase or a " +
				"quarter turn off",
			Sources: []string{"kinematics of the cross joint", "3° equivalent: " + practice},
		}, shaft.Joints),
		define(About{
			Name: "shaft-speed", Version: 1,
			Purpose: "how fast a propshaft tube may turn, or how long it may be",
			Formula: "n = (30·π/L²)·√(E·I/(ρ·A)); run at 75 % of it",
			Assumes: "an even tube between simple supports; steel unless said",
			Sources: []string{"beam theory, first mode", "75 %: " + practice},
		}, shaft.ShaftSpeed),
		define(About{
			Name: "weakest-link", Version: 1,
			Purpose: "which member breaks first, and whether it is the one wanted",
			Formula: "torque at a member = the lesser of engine·ratio·share and tyre grip, over its rating",
			Assumes: "steady pull, no shock",
			Schools: "a weak link on purpose, at the axle end, cheap and quick to change",
			Sources: []string{"statics", practice},
		}, shaft.WeakestLink),
		define(About{
			Name: "heat-fit", Version: 1,
			Purpose: "how warm a bearing or gear must be to drop on",
			Formula: "ΔT = (interference + clearance)/(α·d)",
			Assumes: "steel unless said; a thousandth of the diameter to drop on freely; 110 °C limit for bearings",
			Sources: []string{"linear expansion", "110 to 120 °C: " + practice},
		}, fit.HeatFit),
	}
}
