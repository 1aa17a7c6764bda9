package calc

import (
	"handwerk/core/fastener"
	"handwerk/core/metrology"
	"handwerk/core/shim"
)

// All is the catalogue. A new calculator is one entry here.
func All() Catalogue {
	return newCatalogue(
		define("reading-set", 1,
			"what a set of readings says: mean, uncertainty and verdict against the limits",
			[]string{"JCGM 100:2008 (GUM) 4.2, 4.3.7, annex G", "ISO 14253-1:2017 (decision rule, idea of)"},
			metrology.ReadingSet,
			`{"readings": ["0.10 mm", "0.11 mm", "0.10 mm"], "instrument": {"resolution": "0.01 mm", "mpe": "0.01 mm"}, "lower": "0.05 mm", "upper": "0.20 mm"}`),
		define("end-float", 1,
			"push-pull readings of a shaft: float, the pack it needs, and which shims of the drawer make it",
			[]string{"geometry", "JCGM 100:2008 (GUM) 4.2, 4.3.7, annex G", "missing washer at 10 %: common practice"},
			shim.EndFloat,
			`{"readings": ["0.62 mm", "24 thou", ".024 in"], "instrument": {"resolution": "0.01 mm"}, "trial_pack": "0 mm", "target_min": "0.05 mm", "target_max": "0.20 mm", "sense": "pack_reduces_float", "stock": [{"thickness": "0.10 mm", "count": 4}, {"thickness": "0.50 mm", "count": 2}, {"thickness": "0.60 mm", "count": 1}]}`),
		define("shim-pack", 1,
			"the packs of the drawer that come nearest to a thickness, with fewest shims",
			[]string{"bounded dynamic programming on a 1 µm grid, exact optimum"},
			shim.FindPack,
			`{"required": "0.62 mm", "tolerance": "0.02 mm", "stock": [{"thickness": "0.10 mm"}, {"thickness": "0.15 mm", "count": 2}, {"thickness": "0.50 mm", "count": 1}]}`),
		define("torque-plan", 1,
			"order, passes and wrench settings for a group of bolts",
			[]string{"cross pattern in at least two passes: common practice"},
			fastener.TorquePlan,
			`{"bolts": 8, "torque": "26 lb-ft", "wrench": {"unit": "N·m", "step": 0.5}}`),
	)
}
