package calc

import (
	"handwerk/core/calculator"
	"handwerk/core/clutch"
	"handwerk/core/diagnosis"
	"handwerk/core/driveline"
	"handwerk/core/fastener"
	"handwerk/core/fit"
	"handwerk/core/fluid"
	"handwerk/core/gearing"
	"handwerk/core/ringpinion"
	"handwerk/core/runout"
	"handwerk/core/shaft"
	"handwerk/core/shim"
)

// Asks are the ways in which somebody at the bench asks for a calculator, beside its
// purpose; none where that says it all.
func Asks(c calculator.Calculator) []string { return asks[c.Name] }

var asks = map[string][]string{
	diagnosis.DiagnoseMethod.Name:  {"what is broken", "noise when driving"},
	driveline.TyresMethod.Name:     {"tyres of different size on four-wheel drive"},
	gearing.NoiseOrdersMethod.Name: {"where does the whine come from", "howl at a speed"},
	gearing.GearingMethod.Name: {
		"speed in top gear",
		"axle ratio",
		"speedometer reads wrong after larger tyres",
	},
	fluid.ChooseMethod.Name:        {"which oil", "GL-4 or GL-5"},
	fluid.FillPlanMethod.Name:      {"how many litres", "how many quarts", "flush the old oil"},
	clutch.CapacityMethod.Name:     {"will the clutch hold the engine", "clutch slips"},
	clutch.ReleaseMethod.Name:      {"clutch drags", "pedal travel", "air in the line"},
	clutch.FreePlayMethod.Name:     {"turns of the nut at the cable", "adjust the pedal"},
	clutch.DiscWearMethod.Name:     {"thickness of a disc", "when is the clutch due"},
	clutch.CoverMethod.Name:        {"flywheel step", "reface the flywheel", "finger spread", "dual-mass play"},
	clutch.WetPackMethod.Name:      {"released clearance of a wet pack", "end plate"},
	clutch.HeatMethod.Name:         {"start on a hill", "how hot does the clutch get"},
	gearing.ChooseGearsMethod.Name: {"which final drive", "nearest gears", "goal seek"},
	shaft.TravelMethod.Name: {
		"how long must the propshaft be",
		"slip travel",
		"propshaft through the stroke",
	},
	clutch.SlipTorqueMethod.Name:         {"viscous coupling test", "limited slip breakaway"},
	shaft.JointsMethod.Name:              {"propshaft vibrates", "angle of a universal joint"},
	shaft.ShaftSpeedMethod.Name:          {"longest propshaft", "critical speed"},
	shim.EndFloatMethod.Name:             {"which shims", "washer thickness"},
	runout.BellhousingMethod.Name:        {"offset dowels", "dial in the bell housing"},
	ringpinion.BearingPreloadMethod.Name: {"crush sleeve", "pinion nut turning torque"},
	ringpinion.PatternMethod.Name:        {"marking compound", "toe heel face root"},
	ringpinion.PinionDepthMethod.Name:    {"mark on the pinion head", "depth shim"},
	fastener.TapDrillMethod.Name:         {"which drill for M14", "hole for a thread", "tap size"},
	fastener.BoltTorqueMethod.Name:       {"torque of an M10 bolt of class 10.9", "oiled thread"},
	fastener.WrenchAdapterMethod.Name:    {"80 lb-ft on a 10 inch crow's foot", "torque wrench with adapter"},
	fastener.TorquePlanMethod.Name:       {"bolts crosswise in steps", "turns of the nut after snug"},
	fit.HeatFitMethod.Name:               {"how hot for a bearing", "oven or freezer"},
}
