package files

import (
	"encoding/json"
	"io/fs"

	"handwerk/core/quantity"
)

// Scenario is a workshop to begin with: its people, fleet and drawers, and
// rebuilds on their way, told as the entries that somebody made.
type Scenario struct {
	People   []ScenarioPerson  `json:"people"`
	Fleet    []ScenarioVehicle `json:"fleet"`
	Drawers  []ScenarioDrawer  `json:"drawers"`
	Rebuilds []ScenarioRebuild `json:"rebuilds"`
}

// ScenarioPerson is somebody with an account.
type ScenarioPerson struct {
	Login string `json:"login"`
	Name  string `json:"name"`
	Role  string `json:"role"`
}

// ScenarioVehicle is a vehicle with its units.
type ScenarioVehicle struct {
	ID    string         `json:"id"`
	Name  string         `json:"name"`
	Owner string         `json:"owner"`
	Units []ScenarioUnit `json:"units"`
}

// ScenarioUnit is an assembly with the spec sheet and route it goes by.
type ScenarioUnit struct {
	ID     string `json:"id"`
	Kind   string `json:"kind"`
	Name   string `json:"name"`
	Serial string `json:"serial"`
	Sheet  string `json:"sheet"`
	Route  string `json:"route"`
	Gears  int    `json:"gears,omitempty"`
}

// ScenarioDrawer is a drawer with its sizes.
type ScenarioDrawer struct {
	ID    string `json:"id"`
	Sizes []struct {
		Thickness quantity.Said[quantity.Length] `json:"thickness"`
		Name      string                         `json:"name"`
		Count     int                            `json:"count"`
	} `json:"sizes"`
}

// ScenarioRebuild is a rebuild that has come as far as Until; without it, to
// the end. Entries are drafts in their JSON form, made when their step is
// reached; ordinary ones fill the rest.
type ScenarioRebuild struct {
	Vehicle       string `json:"vehicle"`
	Unit          string `json:"unit"`
	Complaint     string `json:"complaint"`
	Odometer      string `json:"odometer"`
	OpenedDaysAgo int    `json:"opened_days_ago"`
	PromisedIn    int    `json:"promised_in"`
	Until         string `json:"until,omitempty"`
	Entries       []struct {
		Step string          `json:"step"`
		Say  json.RawMessage `json:"say"`
	} `json:"entries,omitempty"`
}

// scenarioFile tells the demo's story; it is no part of the book.
const scenarioFile = "scenario.yaml"

// LoadScenario reads scenario.yaml of a layer.
func LoadScenario(layer fs.FS) (Scenario, error) {
	raw, err := fs.ReadFile(layer, scenarioFile)
	if err != nil {
		return Scenario{}, err
	}
	var problems Problems
	s := read[Scenario](newFile(scenarioFile, raw), &problems)
	return s, problems.err()
}
