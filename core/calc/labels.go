package calc

// Labels are the words of a shop for figures that their names do not say by
// themselves, and for what stands in them, as feel.in; the rest are said as they
// are named, with spaces.
func Labels() map[string]string {
	return map[string]string{
		"tir":                "total runout",
		"nominal":            "expected on a sound one",
		"singles":            "single faults",
		"doubles":            "pairs",
		"cost_mean":          "cost, mean",
		"cost_p10":           "1 in 10 below",
		"cost_p50":           "half cost less",
		"cost_p90":           "9 in 10 below",
		"days_p50":           "days, half sooner",
		"days_p80":           "days to promise",
		"cheapest_share":     "cheapest in",
		"chance_on_time":     "chance on time",
		"k":                  "factor k",
		"stress_area_mm2":    "stress area, mm²",
		"torque_other_unit":  "the same torque",
		"lead_angle_deg":     "lead angle, degrees",
		"turn_from_snug_deg": "turn from snug, degrees",
		"share_of_proof":     "share of the proof load",
		"u":                  "uncertainty",
		"u_a":                "from spread",
		"u_res":              "from the reading step",
		"u_mpe":              "from the gauge",
		"beyond":             "outside the limit by",
		"s":                  "spread",

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
		"pattern.thick_oil":     "Thick oil, or a stiff boot",
		"pattern.detent":        "Weak detent, wear or short travel",
		"pattern.mixed":         "No clear pattern",

		"school.alike": "Both dowels the same way",
		"school.each":  "Each dowel its own way",
	}
}
