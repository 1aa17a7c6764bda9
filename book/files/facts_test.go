package files

import (
	"reflect"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"handwerk/book"
)

// What the trade holds as common practice has its place in the book that
// ships: a step, a gate, a caution, a rule or a value. One phrase for each.
func TestWhatTheTradeKnowsIsInTheBook(t *testing.T) {
	t.Parallel()
	all := wordsOf(reflect.ValueOf(shippedBook(t)))
	facts := map[string][]string{
		"intake": {"Gouged bores or mixed fasteners", "Limped home"},
		"diagnosis": {
			"moves, but only just", "Creeps at 50 to 60 N·m", "Well past 100 °C", "Turn one wheel by hand",
			"Drives only with the lock in", "gets you home", "20 to 25 mm at the pedal", "never above 19 mm",
			"burnt spot means a misaligned housing",
		},
		"take apart": {
			"Leave one bolt in",
			"Crack everything loose",
			"dated last month",
			"circlip is still in it",
			"like main caps",
			"tag and measure the left and right shims",
			"One terminal at a time",
			"one picture per layer",
		},
		"inspect": {
			"crush sleeves, roll pins, staked nuts", "1.6 mm (1/16 in)", "the unit acts as open",
			"freely on the new pin, without play",
			"four assemblies and a day", "Damaged seal bores", "Rear main seal",
		},
		"choose": {
			"Organic holds about a quarter more than stock, pucks 40 %",
			"disc, cover, flywheel and release bearing together",
			"broken gearboxes",
			"4.23 x 4.33 x 4.10",
			"axle end fails first",
			"10W-30 synthetic",
			"trap air",
			"friction modifier",
			"3.75 US qt (3.55 L)",
			"short of the threads",
			"Half a litre stays in",
			"big can may cost less than four small",
		},
		"measure": {
			"Up to 0.005 in", "0.003 in alone", "grips and a little heat", "cannot be eased off",
			"Order: depth, preload, backlash, side preload, pattern", "marks on both pinions", "6 mm (1/4 in)",
			"Allen key",
			"skid plate",
		},
		"assemble": {
			"round groove to the thread", "damper side to the gearbox", "stone arch", "drops on", "input turns, output",
			"30 to 45 minutes", "thin dressing on both sides", "M14 x 1.5 is tapped in a 12.5 mm hole", "New and wired",
		},
		"install": {
			"Faces touch before any bolt", "about ten times", "Push rod comes with the cylinder",
			"nobody could reach its fill plug",
			"Neutral-start", "Cooler lines capped", "Speed signal",
		},
		"hand over": {"below 4000 rpm", "300 to 500 miles", "one engine speed", "ruins synchronisers",
			"proper disposal"},
		"hazards": {
			"Never under a jack alone", "the balance shifts", "asbestos", "strips paint and burns eyes",
			"Keep chlorinated cleaner away from welding", "magnesium", "150 °C", "Eye and ear protection",
			"one axle on stands",
			"Only insured, legal", "licensed people", "Never weld a differential",
		},
	}
	for where, phrases := range facts {
		for _, phrase := range phrases {
			assert.Contains(t, all, phrase, where)
		}
	}
	assert.NotRegexp(t, `(lb-ft|N·m)[^.;\n]* (is|are) met`, all,
		"a torque is the sheet's: another vehicle's is no rule")
}

// wordsOf is everything that a loaded book says, a line each.
func wordsOf(v reflect.Value) string {
	var said strings.Builder
	switch v.Kind() {
	case reflect.String:
		return v.String() + "\n"
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return wordsOf(v.Elem())
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			said.WriteString(wordsOf(v.Index(i)))
		}
	case reflect.Map:
		for _, k := range v.MapKeys() {
			said.WriteString(wordsOf(v.MapIndex(k)))
		}
	case reflect.Struct:
		for i := range v.NumField() {
			if v.Type().Field(i).IsExported() {
				said.WriteString(wordsOf(v.Field(i)))
			}
		}
	}
	return said.String()
}

// The drawing shows what the words say: where they name a way, the part faces it.
func TestPartsFaceTheWayTheirWordsSay(t *testing.T) {
	t.Parallel()
	says := map[string]book.Facing{
		"to the front": "front", "to the rear": "rear", " up": "up", " down": "down", "either way": "either",
		"outwards": "out",
		"inwards":  "in",
	}
	parts := 0
	for _, r := range shippedBook(t).Routes {
		for _, s := range r.Steps() {
			for _, p := range s.Parts {
				parts++
				var named []book.Facing
				for words, way := range says {
					if strings.Contains(p.Faces, words) {
						named = append(named, way)
					}
				}
				if len(named) > 0 {
					assert.Contains(t, named, p.Facing, "%s, %s: %s", r.ID, p.Name, p.Faces)
				}
			}
		}
	}
	assert.Greater(t, parts, 100)
}
