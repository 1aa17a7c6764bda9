package calc

import (
	"encoding/json"
	"maps"
	"reflect"
	"slices"
	"strings"
	"testing"

	"handwerk/core/input"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What cannot be, and what would be ignored in silence, is refused by name.
func TestWhatCannotBeIsRefused(t *testing.T) {
	t.Parallel()
	all := All()
	for _, tt := range []struct{ calc, in, says string }{
		{
			"backlash",
			`{"readings":["0.2 mm","0.2 mm","0.2 mm"],"direction":"tangential","target_min":"0.1 mm","target_max":"0.3 mm","left":"-1 mm"}`,
			"left:",
		},
		{
			"backlash",
			`{"readings":["0.2 mm","0.2 mm","0.2 mm"],"direction":"tangential","target_min":"0.1 mm","target_max":"0.3 mm","ring_side":"lefft"}`,
			"ring_side:",
		},
		{
			"backlash",
			`{"readings":["0.2 mm","0.2 mm","0.2 mm"],"direction":"tangential","target_min":"0.1 mm","target_max":"0.3 mm","radius":"80 mm"}`,
			"outer_radius:",
		},
		{"pinion-depth", `{"shim_side":"head","old_shim":"0.1 mm","old_mark":"-1 mm","mark":"1 mm"}`,
			"which cannot exist"},
		{"torque-plan", `{"bolts":8,"torque":"20 N·m","wrench":{"unit":"N·m","step":25}}`, "wrench.step:"},
		{"torque-plan", `{"points":[{"x":1,"y":1},{"x":1,"y":1},{"x":1,"y":1}],"torque":"20 N·m"}`,
			"points[1]: it is in the same place as bolt 1"},
		{
			"gearing",
			`{"gears":[{"name":"1","ratio":3}],"final_drive":{"name":"axle","ratio":4},"tyre":{"size":"205/55 R16"},"road_speed":"-5 km/h"}`,
			"road_speed:",
		},
		{
			"gearing",
			`{"gears":[{"name":"1","ratio":3}],"final_drive":{"name":"axle","ratio":4},"tyre":{"size":"205/55 R16"},
			"compare":{"gears":[{"name":"1","ratio":3}],"final_drive":{"name":"axle","ratio":4},"tyre":{"size":"205/55 R16"},"ranges":[{"name":"low","ratio":2}]}}`,
			"compare.ranges:",
		},
		{
			"weakest-link",
			`{"engine_torque":"200 N·m","wheel_load":"500 kg","members":[{"name":"a","ratio":4,"rating":"900 N·m"},{"name":"b","ratio":4,"rating":"900 N·m"}]}`,
			"tyre_radius:",
		},
		{
			"weakest-link",
			`{"engine_torque":"200 N·m","members":[{"name":"a","ratio":4,"share":0,"rating":"900 N·m"},{"name":"b","ratio":4,"rating":"900 N·m"}]}`,
			"members[0].share: 0 cannot be",
		},
		{
			"clutch-capacity",
			`{"engine_torque":"200 N·m","options":[{"name":"a","faces":2,"mu":0.3,"outer_diameter":"240 mm","inner_diameter":"160 mm","clamp":"5000 N","wear":"1 mm"}]}`,
			"options[0].wear:",
		},
		{"shaft-speed", `{"outer_diameter":"76 mm","wall":"2 mm","length":"1400 mm","share":0}`, "share: 0 cannot be"},
		{"heat-fit", `{"diameter":"40 mm","interference":"0.02 mm","room":"1000000000 °C"}`, "room:"},
		{
			"bearing-preload",
			`{"bearings":"new","readings":["2 N·m","2.1 N·m","2 N·m"],"range_new":{"min":"1.7 N·m","max":"2.8 N·m"},"range_used":{"min":"0.9 N·m","max":"-1.4 N·m"}}`,
			"range_used.max:",
		},
		{"shim-pack", `{"required":"1e6 mm","tolerance":"0 mm","stock":[]}`, "without an exponent"},
	} {
		c, ok := all.Named(tt.calc)
		require.True(t, ok, tt.calc)
		_, err := c.Run([]byte(tt.in))
		require.ErrorContains(t, err, tt.says, tt.in)
		for _, machinery := range []string{"json:", "e+", "Inf", "NaN", "%!"} {
			assert.NotContains(t, err.Error(), machinery)
		}
	}
}

// A value typed at its bound is at it, whatever its unit makes of the last digit.
func TestBoundsAreAccepted(t *testing.T) {
	t.Parallel()
	all := All()
	for name, in := range map[string]string{
		"fluid":    `{"unit_kind":"gearbox","yellow_metals":true,"hypoid":false,"plate_limited_slip":false,"wet_pack":false,"coldest_start":"-60 °C"}`,
		"heat-fit": `{"diameter":"40 mm","interference":"0.02 mm","room":"-60 °C"}`,
		"diagnose": strings.Replace(exampleOf(all, "diagnose"), `{`, `{"pair_share": 0, `, 1),
	} {
		c, _ := all.Named(name)
		_, err := c.Run([]byte(in))
		require.NoError(t, err, in)
	}
}

func exampleOf(all Catalogue, name string) string {
	c, _ := all.Named(name)
	return c.Example
}

// No answer shows what adding and subtracting left in the last places.
func TestAnswersAreTidy(t *testing.T) {
	t.Parallel()
	for _, c := range All().List() {
		raw, err := c.Run([]byte(c.Example))
		require.NoError(t, err)
		d := json.NewDecoder(strings.NewReader(string(raw)))
		d.UseNumber()
		for {
			token, err := d.Token()
			if err != nil {
				break
			}
			if n, ok := token.(json.Number); ok {
				digits := strings.Trim(strings.NewReplacer("-", "", ".",
					"").Replace(strings.SplitN(n.String(), "e", 2)[0]), "0")
				assert.LessOrEqual(t, len(digits), 13, "%s: %s", c.Name, n)
				assert.NotEqual(t, "-0", n.String(), c.Name)
			}
		}
	}
}

// A plain number that has to be there is never taken for nought: left out of a
// calculator's example, it is refused by its path.
func TestAMissingNumberIsRefused(t *testing.T) {
	t.Parallel()
	tried := 0
	for _, c := range All().List() {
		for _, m := range numbersOf("", reflect.TypeOf(c.In()), json.RawMessage(c.Example)) {
			tried++
			_, err := c.Run(m.without)
			assert.ErrorContains(t, err, m.path, "%s without %s", c.Name, m.path)
		}
	}
	assert.Greater(t, tried, 40)
}

// missing is an example without one of its numbers.
type missing struct {
	path    string
	without json.RawMessage
}

// numbersOf finds the plain numbers that an example has to have.
func numbersOf(at string, t reflect.Type, raw json.RawMessage) (list []missing) {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	var items []json.RawMessage
	if t.Kind() == reflect.Slice && json.Unmarshal(raw, &items) == nil {
		for i, item := range items {
			for _, m := range numbersOf(input.Index(at, i), t.Elem(), item) {
				list = append(list, missing{m.path, replaced(items, i, m.without)})
			}
		}
		return list
	}
	var fields map[string]json.RawMessage
	if t.Kind() != reflect.Struct || json.Unmarshal(raw, &fields) != nil {
		return nil // a quantity may be a text
	}
	for i := range t.NumField() {
		f := t.Field(i)
		name, options, _ := strings.Cut(f.Tag.Get("json"), ",")
		value, said := fields[name]
		if !said || f.Anonymous {
			continue
		}
		path := input.Join(at, name)
		kind := f.Type.Kind()
		if (kind == reflect.Float64 || kind == reflect.Int) && !strings.Contains(options, "omit") {
			rest := maps.Clone(fields)
			delete(rest, name)
			list = append(list, missing{path, marshalled(rest)})
		}
		for _, m := range numbersOf(path, f.Type, value) {
			rest := maps.Clone(fields)
			rest[name] = m.without
			list = append(list, missing{m.path, marshalled(rest)})
		}
	}
	return list
}

func replaced(items []json.RawMessage, i int, with json.RawMessage) json.RawMessage {
	all := slices.Clone(items)
	all[i] = with
	return marshalled(all)
}

func marshalled(v any) json.RawMessage {
	raw, _ := json.Marshal(v) // of what was read from JSON
	return raw
}
