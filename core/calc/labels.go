package calc

// Labels are the words of a shop for figures that their names do not say by
// themselves, and for what stands in them, as feel.in; the rest are said as they
// are named, with spaces.
func Labels() map[string]string {
	return map[string]string{
		"tir":            "total runout",
		"nominal":        "what a sound one would show",
		"singles":        "single failures",
		"doubles":        "pairs",
		"cost_mean":      "cost, mean",
		"cost_p10":       "one in ten below",
		"cost_p50":       "half below",
		"cost_p90":       "nine in ten below",
		"days_p50":       "days, half",
		"days_p80":       "days to promise",
		"cheapest_share": "cheapest in",
		"chance_on_time": "chance on time",
		"k":              "per mm of move",
		"u":              "uncertainty",
		"u_a":            "from spread",
		"u_res":          "from the scale",
		"u_mpe":          "from the gauge",
		"beyond":         "past the limit by",
		"s":              "spread",

		"state.engine_off":  "engine off",
		"state.standing":    "standing, clutch down",
		"state.clutch_held": "after third stopped the shafts",
		"state.rolling":     "rolling",

		"feel.in":        "goes in",
		"feel.stiff":     "stiff",
		"feel.crunches":  "crunches",
		"feel.refuses":   "refuses",
		"feel.jumps_out": "jumps out",

		"pattern.none":          "Every gear goes in",
		"pattern.drag":          "The clutch drags",
		"pattern.synchronisers": "Worn synchronisers",
		"pattern.linkage":       "The linkage",
		"pattern.thick_oil":     "Thick oil, or the boot",
		"pattern.detent":        "Detent, wear or travel",
		"pattern.mixed":         "No one pattern",

		"school.alike": "Both turned alike",
		"school.each":  "Each its own way",
	}
}
