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
	groups []Group
	list   []calculator.Calculator
	byName map[string]calculator.Calculator
}

// All is the catalogue. A new calculator is defined in its chapter and named here.
func All() Catalogue {
	return newCatalogue(
		entries("Diagnose", diagnosis.DiagnoseMethod, driveline.DrivelineMethod, driveline.DrawMethod,
			driveline.TyresMethod, gearing.ShiftMatrixMethod, gearing.NoiseOrdersMethod, decision.DecideMethod),
		entries(
			"Choose",
			gearing.GearingMethod,
			gearing.ChooseGearsMethod,
			fluid.ChooseMethod,
			fluid.ViscosityAtMethod,
			fluid.FillPlanMethod,
			clutch.CapacityMethod,
			clutch.HeatMethod,
			shaft.TravelMethod,
			shaft.JointsMethod,
			shaft.ShaftSpeedMethod,
			shaft.WeakestLinkMethod,
		),
		entries(
			"Measure and set",
			metrology.ReadingSetMethod,
			metrology.GaugeLinesMethod,
			shim.EndFloatMethod,
			shim.FindPackMethod,
			clutch.WetPackMethod,
			runout.RunoutMethod,
			runout.BellhousingMethod,
			gearing.GearMatrixMethod,
			gearing.GateMethod,
		),
		entries("Axle", ringpinion.PinionDepthMethod, ringpinion.BearingPreloadMethod, ringpinion.BacklashMethod,
			ringpinion.PatternMethod, ringpinion.RingPinionMethod, clutch.PlateStackMethod, clutch.SlipTorqueMethod),
		entries("Clutch", clutch.ReleaseMethod, clutch.DiscWearMethod, clutch.CoverMethod, clutch.FreePlayMethod),
		entries("Assemble", fastener.TorquePlanMethod, fastener.BoltTorqueMethod, fastener.TapDrillMethod,
			fastener.WrenchAdapterMethod, fit.HeatFitMethod),
		entries("Prove and run in", gearing.PlanRunningInMethod),
		entries("Practise", practice.PracticeMethod),
	)
}

// Group is a part of the work with its calculators.
type Group struct {
	Title       string
	Calculators []calculator.Calculator
}

func entries(title string, list ...interface{ Entry() calculator.Calculator }) Group {
	g := Group{Title: title}
	for _, x := range list {
		g.Calculators = append(g.Calculators, x.Entry())
	}
	return g
}

func newCatalogue(groups ...Group) Catalogue {
	c := Catalogue{groups: groups, byName: map[string]calculator.Calculator{}}
	for _, g := range groups {
		for _, x := range g.Calculators {
			c.list = append(c.list, x)
			c.byName[x.Name] = x
		}
	}
	return c
}

// Groups gives them by the parts of the work.
func (c Catalogue) Groups() []Group { return c.groups }

// List gives all calculators.
func (c Catalogue) List() []calculator.Calculator { return c.list }

// Named finds one.
func (c Catalogue) Named(name string) (calculator.Calculator, bool) {
	found, ok := c.byName[name]
	return found, ok
}
