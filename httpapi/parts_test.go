package httpapi_test

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/workshop/acts"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds"
	"handwerk/workshop/kinds/items"
	"handwerk/workshop/kinds/order"
	"handwerk/workshop/record"
)

// story is a rebuild from what the customer says to what was ordered.
type story struct {
	route     string
	complaint string   // item and outcome
	tests     []string // step, item and outcome
	causes    []string // any of these leads
	verdicts  []string // part and what was seen on it
	lines     []string // that are on the list then
	suppliers int      // that something is ordered from
}

// The four stories are those of the trade: common practice, told in our words.
var stories = map[string]story{
	"a gearbox that refuses first and second standing": {
		route: "gearbox-longitudinal", complaint: "complaint-gearbox refuses",
		tests: []string{
			"shift-before gear-1-engine-off in", "shift-before gear-2-engine-off in",
			"shift-before gear-3-engine-off in", "shift-before gear-1-standing refuses",
			"shift-before gear-2-standing refuses", "shift-before gear-3-standing in",
			"shift-before gear-4-standing in", "shift-before gear-1-held in",
		},
		causes: []string{"synchro-worn"}, verdicts: []string{"ring-2 gap 0.4 mm, limit 0.6", "hub-12 sleeve rounded"},
		lines: []string{"strip.ring-2", "strip.hub-12", "strip.seal", "strip.flange-nut", "fluid.fluid"}, suppliers: 2,
	},
	"a differential with one wheel spinning": {
		route: "axle-limited-slip", complaint: "complaint-axle one-spins",
		tests:  []string{"tests one-wheel acts-open"},
		causes: []string{"plates-worn"}, verdicts: []string{"plates-left splines worn", "plates-right splines worn"},
		lines: []string{"kit.plates", "strip.plates-left", "strip.cover-bolts"}, suppliers: 1,
	},
	"a truck that drives only with the lock in": {
		route: "axle-power-divider", complaint: "complaint-axle no-drive",
		tests:  []string{"tests lock-in-drive only-in", "tests shafts-drawn whole"},
		causes: []string{"side-gears-broken", "inter-axle-broken"}, verdicts: []string{"rear-gear three teeth gone"},
		lines: []string{"strip.rear-gear", "strip.nut", "strip.seal"}, suppliers: 2,
	},
	"a tractor whose pack slips with the engine off": {
		route: "transfer-case-wet-pack", complaint: "complaint-transfer no-four",
		tests:  []string{"tests engine-off-lock propshaft-spins"},
		causes: []string{"wet-pack-slips"}, verdicts: []string{"plates burnt, 1.2 mm under", "springs flat"},
		lines: []string{"kit.pack", "strip.plates", "strip.rings"}, suppliers: 1,
	},
}

func TestFromComplaintToOrderedParts(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	for name, s := range stories {
		t.Run(name, func(t *testing.T) {
			u := p.signIn("ilva")
			taken := orders[s.route]
			taken.Complaint = name
			base := u.begin(t, taken)
			steps := base + "/steps/"
			u.diagnosed(t, base, s)
			u.walkUntil(t, base, "parts")
			for _, v := range s.verdicts {
				part, seen, _ := strings.Cut(v, " ")
				u.do(
					t, steps+"parts/entries",
					fmt.Sprintf(`{"act":"verdict","item":%q,"outcome":"replace","reason":%q}`, part, seen),
					&record.Entry{},
				)
			}
			u.walkUntil(t, base, "parts-here")
			list, ok := u.step(steps + "parts-here").(*order.OrderStep)
			require.True(t, ok)
			var on []string
			bySupplier := map[string][]acts.OrderLine{}
			for _, g := range list.Groups {
				for _, l := range g.Lines {
					on = append(on, l.Line)
					if g.Kit == "" || g.Kit == l.Line {
						bySupplier[l.Supplier] = append(bySupplier[l.Supplier],
							acts.OrderLine{Line: l.Line, Price: l.Price})
					}
				}
			}
			assert.Subset(t, on, s.lines)
			delete(bySupplier, "") // the oil is over the counter
			assert.Len(t, bySupplier, s.suppliers)
			due := p.now.AddDate(0, 0, 3).Format("2006-01-02")
			lines := 0
			for supplier, bought := range bySupplier {
				lines += len(bought)
				said, err := json.Marshal(
					record.Draft{Says: &acts.Ordered{Supplier: supplier, Due: due, Lines: bought}},
				)
				require.NoError(t, err)
				u.do(t, steps+"parts-here/entries", string(said), &record.Entry{})
			}
			list = u.step(steps + "parts-here").(*order.OrderStep)
			assert.Equal(t, lines, list.Last.Awaited)
			assert.Equal(t, due, list.Last.Day)
			assert.Negative(t, list.Last.Late, "it is here before the promised day")
			var sheet record.Sheet
			u.get(base, &sheet)
			if list.Last.ToOrder == 0 {
				assert.Contains(t, sheet.Rebuild.Place.WaitsFor, "waits for")
				assert.True(t, sheet.Rebuild.Place.Held)
			}
		})
	}
}

// diagnosed answers what the story tells, and sees the cause lead.
func (u *user) diagnosed(t *testing.T, base string, s story) {
	t.Helper()
	say := func(step, item, outcome string, act acts.Name) {
		path := base + "/steps/" + step
		for {
			caution, waits := kinds.Acknowledging(
				u.step(path),
				record.Draft{Item: record.ReadPlace(item), Says: acts.Find(act)},
			)
			if !waits {
				break
			}
			raw, err := json.Marshal(caution)
			require.NoError(t, err)
			u.do(t, path+"/entries", string(raw), &record.Entry{})
		}
		u.do(t, path+"/entries", fmt.Sprintf(`{"act":%q,"item":%q,"outcome":%q}`, act, item, outcome), &record.Entry{})
	}
	item, outcome, _ := strings.Cut(s.complaint, " ")
	say("complaint", item, outcome, "outcome")
	for _, x := range s.tests {
		words := strings.Fields(x)
		act := acts.Name("outcome")
		if words[0] == "shift-before" {
			act = "reading"
		}
		say(words[0], words[1], words[2], act)
	}
	tests, ok := u.step(base + "/steps/tests").(*items.TestStep)
	require.True(t, ok)
	id, best := "", 0.0
	for _, c := range tests.Diagnosis.Causes {
		if c.P > best {
			id, best = c.ID, c.P
		}
	}
	assert.Contains(t, s.causes, id)
}

// A list goes out as CSV and comes in again; a garbled file changes nothing.
func TestAPartsListAsAFile(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	u := p.signIn("odo")
	step := u.begin(t, orders["shift-linkage"]) + "/steps/parts-here"
	var read struct{ Lines []acts.OrderLine }
	u.do(
		t,
		"/api/v1/parts/read",
		`{"text":"name;line;pieces;supplier;price;lead_days\r\nRod end M8;;2;Bolt shop;4,50;2\r\n"}`,
		&read,
	)
	require.Len(t, read.Lines, 1)
	said, err := json.Marshal(record.Draft{Says: &acts.Wanted{Lines: read.Lines}})
	require.NoError(t, err)
	u.do(t, step+"/entries", string(said), &record.Entry{})
	res, out := u.send(http.MethodGet, step+"/parts.csv", "", nil)
	require.Equal(t, http.StatusOK, res.StatusCode)
	assert.Contains(t, out, "own-1,Rod end M8,2,part,Bolt shop,4.5,2,,to-order,")
	res, out = u.send(http.MethodGet, strings.Replace(step, "parts-here", "identify", 1)+"/parts.csv", "", nil)
	assert.Equal(t, http.StatusNotFound, res.StatusCode, out)
	res, out = u.send(http.MethodPost, "/api/v1/parts/read", `{"text":"line,name,price\r\n,Nut,-4\r\n"}`, key())
	assert.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, out)
	assert.Contains(t, out, "line 2, column price")
	guest := p.signIn("guest")
	res, _ = guest.send(http.MethodPost, "/api/v1/parts/read", `{"text":"line,name\r\n,Nut\r\n"}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode)
}

// What a rebuild costs is for leads alone.
func TestCostsAreForLeads(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	ilva := p.signIn("ilva")
	base := "/api/v1/rebuilds/" + ilva.open().ID
	ilva.do(t, base+"/steps/identify/entries", `{"act":"note","note":"looked at it","spent":600}`, &record.Entry{})
	var c buying.Cost
	ilva.get(base+"/costs", &c)
	require.NotEmpty(t, c.Steps)
	assert.Equal(t, "identify", c.Steps[0].Step)
	for _, login := range []string{"odo", "guest"} {
		res, said := p.signIn(login).send(http.MethodGet, base+"/costs", "", nil)
		assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
	}
}

// What the bench says of a part beyond a word is refused by the name of its
// field, and nothing is kept of it.
func TestWhatIsSaidOfAPartNamesItsField(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	u := p.signIn("odo")
	base := u.begin(t, orders["transfer-case-dog"])
	u.walkUntil(t, base, "strip")
	steps := base + "/steps/"
	var off record.Entry
	u.do(
		t,
		steps+"strip/entries",
		`{"act":"removed","item":"bearing","outcome":"removed","mark":"two dots","value":"1.52 mm","bolts":"one","damage":"rounded"}`,
		&off,
	)
	for field, c := range map[string][2]string{
		"behind":     {"strip", `{"act":"removed","item":"circlip","outcome":"removed","behind":"nowhere"}`},
		"value":      {"strip", `{"act":"removed","item":"circlip","outcome":"removed","value":"3 N·m"}`},
		"wear":       {"strip", `{"act":"removed","item":"circlip","outcome":"removed","wear":{"what":"x","value":"1 mm","new":"1 mm","limit":"2 mm"}}`},
		"spent":      {"strip", `{"act":"note","note":"x","spent":-1}`},
		"minutes":    {"strip", `{"act":"time","minutes":5000}`},
		"lines":      {"parts-here", `{"act":"ordered","supplier":"x","lines":[]}`},
		"supplier":   {"parts-here", `{"act":"ordered","lines":[{"line":"strip.circlip"}]}`},
		"outcome":    {"parts-here", `{"act":"decision","outcome":"gold"}`},
		"due":        {"parts-here", `{"act":"ordered","supplier":"x","due":"soon","lines":[{"line":"strip.circlip"}]}`},
		"lines[0].x": {"parts-here", `{"act":"wanted","lines":[{"name":"Nut","x":1}]}`},
	} {
		res, said := u.send(http.MethodPost, steps+c[0]+"/entries", c[1], key())
		require.Equal(t, http.StatusUnprocessableEntity, res.StatusCode, "%s: %s", field, said)
		assert.Equal(t, field, problemOf(t, res, said).Fields[0].Path, said)
	}
	var sheet record.Sheet
	u.get(base, &sheet)
	assert.Equal(t, off.Seq, sheet.Rebuild.Head.Seq, "nothing of it was kept")
}

// A lead makes a kit of what the list asks for; once the sheet is taken, it is a way
// of buying it, here and in the next rebuild of the family.
func TestAShopMakesItsOwnKit(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	s := stories["a gearbox that refuses first and second standing"]
	u := p.signIn("ilva")
	taken := orders[s.route]
	taken.Complaint = "Refuses first"
	base := u.begin(t, taken)
	u.diagnosed(t, base, s)
	u.walkUntil(t, base, "parts-here")
	path := base + "/steps/parts-here"
	made := func(price, lines string) (int, string) {
		res, said := u.send(
			http.MethodPost, base+"/kept-kit",
			`{"step":"parts-here","name":"Seals, ours","supplier":"Bolt shop","lead_days":1,"price":`+price+
				`,"lines":[`+lines+`]}`, key(),
		)
		return res.StatusCode, said
	}
	for of, field := range map[[2]string]string{
		{"41.5", ``}:                            "lines",
		{"41.5", `"strip.seal","strip.nobody"`}: "lines[1]",
		{"41.5", `"fluid.fluid"`}:               "lines[0]",
		{"-1", `"strip.seal"`}:                  "price",
	} {
		status, said := made(of[0], of[1])
		assert.Equal(t, http.StatusUnprocessableEntity, status, said)
		assert.Contains(t, said, `"`+field+`"`)
	}
	status, said := made("41.5", `"strip.seal","strip.flange-nut"`)
	require.Equal(t, http.StatusOK, status, said)
	view := u.step(path)
	require.NotZero(t, view.Frame().NewerSheet, "it is offered")
	u.do(t, path+"/entries", `{"act":"sheet"}`, &record.Entry{})
	list := u.step(path).(*order.OrderStep)
	i := slices.IndexFunc(list.Ways, func(w order.PartsWay) bool { return strings.Contains(w.Says, "Seals, ours") })
	require.GreaterOrEqual(t, i, 0, "a way to buy")
	u.do(t, path+"/entries", `{"act":"decision","outcome":"`+list.Ways[i].ID+`"}`, &record.Entry{})
	list = u.step(path).(*order.OrderStep)
	assert.True(t, slices.ContainsFunc(list.Groups, func(g order.PartsGroup) bool {
		return g.Title == "In Seals, ours" && len(g.Lines) == 3
	}), "the kit and the two it brings")
	res, said := p.signIn("odo").send(http.MethodPost, base+"/kept-kit",
		`{"step":"parts-here","name":"x","supplier":"y","price":1,"lead_days":1,"lines":["strip.seal"]}`, key())
	assert.Equal(t, http.StatusForbidden, res.StatusCode, said)
}
