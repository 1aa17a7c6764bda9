package report

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
)

// Tables as spreadsheets write them: with ; and a decimal comma, a byte-order
// mark, Windows line ends, columns in another order.
func TestTablesAsSpreadsheetsWriteThem(t *testing.T) {
	t.Parallel()
	for name, text := range map[string]string{
		"comma":     "figure,value\nlimits.backlash.min,0.15 mm\nfigures.axle-ratio,4.1\n",
		"semicolon": "\ufefffigure;value;kind\r\nlimits.backlash.min;0,15 mm;\r\nfigures.axle-ratio;4,1;number\r\n",
		"tab":       "Value\tFigure\n\"0.15 mm\"\tlimits.backlash.min\n4.1\tfigures.axle-ratio",
	} {
		lines, _, err := ReadSheet(text)
		require.NoError(t, err, name)
		require.Len(t, lines, 2, name)
		assert.JSONEq(t, "4.1", string(lines[0].Figure), name)
		assert.Equal(t, "limits.backlash", lines[1].Path, name)
	}
}

// What is wrong is named by line and column, and nothing is given.
func TestTablesThatAreWrong(t *testing.T) {
	t.Parallel()
	long := "figure,value\n" + strings.Repeat("limits.backlash.min,0.15 mm\n", 50_000)
	for text, want := range map[string]string{
		"":                            "line 1",
		"figure\nlimits.backlash.min": "line 1: the column value is missing",
		"figure,value,colour\n":       "line 1, column 3",
		"figure,figure\n":             "line 1, column 2",
		"figure,value\n":              "line 2",
		"figure,value\na,b,c\n":       "line 2, column 3",
		"figure,value\nlimits.backlash.min,\"0.1":                                "line 2",
		"figure,value\nlimits.backlash.min,0.1 mm\nlimits.backlash.min,0.2 mm\n": "line 3, column figure",
		"figure,value\nlimits.backlash.min,much\n":                               "line 2, column value",
		"figure,value\nfigures.x,1\nlimits.backlash.least,0.1 mm\n":              "line 3, column value",
		"figure,value\nnowhere.backlash,1\n":                                     "line 2",
		"figure,value\nwashers.1.name,thin\nwashers.1.thickness,-\n":             "line 3, column value",
		"figure,value,kind\nfigures.x,yes,number\n":                              "line 2, column value",
		"figure,value,kind\nfigures.x,1,guess\n":                                 "line 2, column kind",
		"figure,value\nfigures.x,1\nfigures.x.y,1\n":                             "line 3, column figure",
		"figure,value\n\x00,1\n":                                                 "not a text file",
		long:                                                                     "line 2002",
		`{"limits":{"backlash":7}}`:                                              "limits.backlash",
		`{"limits":`:                                                             "text",
	} {
		lines, _, err := ReadSheet(text)
		require.Error(t, err, "%.80q", text)
		assert.Contains(t, err.Error(), want, "%.80q", text)
		assert.Empty(t, lines, "%.80q", text)
	}
}

// Whatever a file holds, reading it ends with lines or with a fault that names text.
func FuzzReadSheet(f *testing.F) {
	for _, text := range []string{"figure,value\nlimits.backlash.min,0.15 mm\n",
		"figure;value;kind\r\nwashers.1.thickness;1,2 mm;text\r\n", `{"id":"x","family":"y"}`, "\ufeff"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		lines, _, err := ReadSheet(text)
		if err != nil && !strings.Contains(err.Error(), "text") {
			t.Errorf("%q: %v", text, err)
		}
		if err != nil && len(lines) > 0 {
			t.Errorf("%q: %s and a fault", text, fmt.Sprint(lines))
		}
	})
}

// A table says in part: what it does not name stands, taking away is said.
func TestATableTakesNothingAwayInSilence(t *testing.T) {
	t.Parallel()
	lines, inPart, err := ReadSheet(
		"figure,value,kind\nlimits.backlash.max,0.22 mm,\nlimits.float.min,,taken-away\nwashers.2.name,thick,\n",
	)
	require.NoError(t, err)
	assert.True(t, inPart)
	for path, c := range map[string]struct{ before, want string }{
		"limits.backlash": {`{"min":"0.15 mm","max":"0.2 mm"}`, `{"min":"0.15 mm","max":"0.22 mm"}`},
		"limits.float":    {`{"min":{"value":0.1,"unit":"mm"},"max":"0.3 mm"}`, `{"max":"0.3 mm"}`},
		"washers": {
			`[{"name":"thin","thickness":"1 mm"},{"name":"fat","thickness":"2 mm"}]`,
			`[{"name":"thin","thickness":"1 mm"},{"name":"thick","thickness":"2 mm"}]`,
		},
	} {
		i := slices.IndexFunc(lines, func(l book.Line) bool { return l.Path == path })
		require.GreaterOrEqual(t, i, 0, path)
		laid, err := book.LayOver(json.RawMessage(c.before), lines[i].Figure)
		require.NoError(t, err)
		assert.JSONEq(t, c.want, string(laid), path)
	}
	gone, err := book.LayOver(json.RawMessage(`{"min":"0.1 mm"}`), json.RawMessage(`{"min":null}`))
	require.NoError(t, err)
	assert.Nil(t, gone, "the last leaf takes the figure with it")
	_, _, err = ReadSheet("figure,value,kind\nlimits.float.min,0.1 mm,taken-away\n")
	assert.ErrorContains(t, err, "is taken away and takes no value")
}
