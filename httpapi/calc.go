package httpapi

import (
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/gofiber/fiber/v3"

	"handwerk/core/calc"
	"handwerk/core/calc/describe"
	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/httpapi/contract"
)

// CalculatorView is one entry of the catalogue.
type CalculatorView struct {
	Name    string          `json:"name"`
	Method  string          `json:"method"`
	Purpose string          `json:"purpose"`
	Sources []string        `json:"sources"`
	Example json.RawMessage `json:"example"`
	Group   string          `json:"group"`          // the part of the work it belongs to
	Asks    []string        `json:"asks,omitempty"` // how somebody at the bench asks for it
}

// catalogueView is every calculator there is.
type catalogueView struct {
	Calculators []CalculatorView  `json:"calculators"`
	Labels      map[string]string `json:"labels"` // of figures of results, in the words of a shop
}

// unitsView are all units of measure.
type unitsView struct {
	Units []quantity.Unit `json:"units"`
}

type calcIn struct {
	Name string `path:"name"`
}

type askedIn struct {
	Name     string `path:"name"`
	Question string `query:"q" description:"what one wants to know, with its figures: 80 lb-ft on a 10 inch crow's foot"`
}

func (a calcDesk) calcEndpoints() []endpoint {
	all := calc.All()
	list := []endpoint{
		get(a.api, "/calc", "calculators", "the catalogue of calculators", signedIn,
			func(call, nothing) (catalogueView, error) {
				view := catalogueView{Labels: calc.Labels()}
				for _, g := range all.Groups() {
					for _, c := range g.Calculators {
						view.Calculators = append(view.Calculators, CalculatorView{
							c.Name, c.Method(), c.Purpose, c.Sources, json.RawMessage(c.Example), g.Title, calc.Asks(c),
						})
					}
				}
				return view, nil
			}),
		get(a.api, "/units", "units", "every unit with its factor to SI", signedIn,
			func(c call, _ nothing) (unitsView, error) {
				return unitsView{quantity.Units()}, nil
			}),
		get(a.api, "/calc/:name/asked", "asked", "the worked example with the figures of a question in place", signedIn,
			func(_ call, in askedIn) (json.RawMessage, error) {
				c, ok := all.Named(in.Name)
				if !ok {
					return nil, problem(http.StatusNotFound, "Not here", "There is no such calculator.")
				}
				if len(in.Question) > calc.MostQuestion {
					return nil, input.At(
						"q",
						fmt.Sprintf("up to %d letters", calc.MostQuestion),
						"%d letters",
						len(in.Question),
					)
				}
				return calc.FillIn(c, in.Question), nil
			}),
		get(a.api, "/calc/:name", "schema", "JSON Schema of a calculator's input and output", signedIn,
			func(_ call, in calcIn) (json.RawMessage, error) {
				c, ok := all.Named(in.Name)
				if !ok {
					return nil, problem(http.StatusNotFound, "Not here", "There is no such calculator.")
				}
				return describe.Schema(c, contract.Words()...)
			}),
	}
	for _, c := range all.List() {
		list = append(list, a.calculator(c))
	}
	return list
}

// calculator makes one typed operation, so that OpenAPI knows its fields.
func (a calcDesk) calculator(c calculator.Calculator) endpoint {
	e := endpoint{
		method: http.MethodPost, path: "/calc/" + c.Name, id: "calc-" + c.Name, summary: c.Purpose,
		access: signedIn, in: c.In(), out: c.Out(), status: http.StatusOK,
	}
	e.serve = func(fc fiber.Ctx) error {
		if _, err := a.admit(fc, e); err != nil {
			return err
		}
		raw, err := jsonBody(fc, maxJSON)
		if err != nil {
			return err
		}
		result, err := c.Run(raw)
		if err != nil {
			return err
		}
		return fc.Type("json").Send(result)
	}
	return e
}
