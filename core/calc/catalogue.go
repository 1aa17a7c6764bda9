// Package calc is the catalogue: every calculator of core by name. The command
// line, HTTP and the steps of a rebuild all ask it here.
package calc

import (
	"handwerk/core/calculator"
	"handwerk/core/clutch"
	"handwerk/core/decision"
	"handwerk/core/diagnosis"
	"handwerk/core/driveline"
	"handwerk/core/fastener"
	"handwerk/core/fit"
	"handwerk/core/fluid"
	"handwerk/core/gearing"
	"handwerk/core/metrology"
	"handwerk/core/practice"
	"handwerk/core/ringpinion"
	"handwerk/core/runout"
	"handwerk/core/shaft"
	"handwerk/core/shim"
)

// Catalogue holds the calculators in the order of the work.
type Catalogue struct {
	list   []calculator.Calculator
	byName map[string]calculator.Calculator
}

// All is the catalogue. A new calculator is defined in its chapter and named here.
func All() Catalogue {
	return newCatalogue(
		diagnosis.DiagnoseMethod,
		driveline.DrivelineMethod,
		driveline.DrawMethod,
		driveline.TyresMethod,
		decision.DecideMethod,
		metrology.ReadingSetMethod,
		metrology.GaugeLinesMethod,
		shim.EndFloatMethod,
		shim.FindPackMethod,
		runout.RunoutMethod,
		runout.BellhousingMethod,
		ringpinion.PinionDepthMethod,
		ringpinion.BearingPreloadMethod,
		ringpinion.BacklashMethod,
		ringpinion.PatternMethod,
		ringpinion.RingPinionMethod,
		gearing.GearingMethod,
		gearing.ShiftMatrixMethod,
		gearing.GearMatrixMethod,
		gearing.GateMethod,
		gearing.NoiseOrdersMethod,
		gearing.PlanRunningInMethod,
		fluid.ChooseMethod,
		fluid.ViscosityAtMethod,
		fluid.FillPlanMethod,
		clutch.CapacityMethod,
		clutch.ReleaseMethod,
		clutch.DiscWearMethod,
		clutch.FreePlayMethod,
		clutch.PlateStackMethod,
		clutch.SlipTorqueMethod,
		fastener.TorquePlanMethod,
		fastener.BoltTorqueMethod,
		fastener.TapDrillMethod,
		fastener.WrenchAdapterMethod,
		shaft.JointsMethod,
		shaft.ShaftSpeedMethod,
		shaft.WeakestLinkMethod,
		fit.HeatFitMethod,
		practice.PracticeMethod,
	)
}

func newCatalogue(list ...interface{ Entry() calculator.Calculator }) Catalogue {
	c := Catalogue{byName: map[string]calculator.Calculator{}}
	for _, x := range list {
		c.list = append(c.list, x.Entry())
		c.byName[x.Entry().Name] = x.Entry()
	}
	return c
}

// List gives all calculators.
func (c Catalogue) List() []calculator.Calculator { return c.list }

// Named finds one.
func (c Catalogue) Named(name string) (calculator.Calculator, bool) {
	found, ok := c.byName[name]
	return found, ok
}
