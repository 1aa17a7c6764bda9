package calc

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What cannot be, and what would be ignored in silence, is refused by name.
func TestWhatCannotBeIsRefused(t *testing.T) {
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
			"no shim reaches that"},
		{"torque-plan", `{"bolts":8,"torque":"20 N·m","wrench":{"unit":"N·m","step":25}}`, "wrench.step:"},
		{"torque-plan", `{"points":[{"x":1,"y":1},{"x":1,"y":1},{"x":1,"y":1}],"torque":"20 N·m"}`,
			"points[1]: it stands where bolt 1 stands"},
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
		{"shim-pack", `{"required":"1e6 mm","tolerance":"0 mm","stock":[]}`, "has an exponent"},
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
