package report_test

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/report"
	"handwerk/workshop/buying"
	"handwerk/workshop/kinds/order"
)

func partsList() *order.OrderStep {
	price, lead := quantity.MoneyOf(12.5), quantity.Count(3)
	return &order.OrderStep{Groups: []order.PartsGroup{{Title: "Singles", Lines: []order.PartLine{
		{
			Line: "strip.seal", Name: `Seal, "large"`, Kind: "part", Pieces: 2, Supplier: "Ferry stores",
			Price: &price, Lead: &lead,
			Why: "renewed by rule", State: buying.LineOrdered, Due: "2026-11-27",
		},
		{Line: "own-1", Name: "Odd nut", Kind: "part", Pieces: 1, State: buying.LineToOrder},
	}}}}
}

func TestAPartsListGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	var out bytes.Buffer
	require.NoError(t, report.WriteParts(&out, partsList()))
	lines, err := report.ReadParts(out.String())
	require.NoError(t, err)
	require.Len(t, lines, 2)
	assert.Equal(t, "strip.seal", lines[0].Line)
	assert.Equal(t, `Seal, "large"`, lines[0].Name)
	assert.InDelta(t, 12.5, lines[0].Price.Sum(), 1e-9)
	assert.EqualValues(t, 3, *lines[0].Lead)
	assert.Nil(t, lines[1].Price)

	lines, err = report.ReadParts("name;line;price;lead_days\r\nFork nut M7;;1,5;4\r\n")
	require.NoError(t, err)
	assert.Empty(t, lines[0].Line, "a new one")
	assert.InDelta(t, 1.5, lines[0].Price.Sum(), 1e-9)
}

func TestAGarbledPartsListIsNamed(t *testing.T) {
	t.Parallel()
	for text, names := range map[string]string{
		"":                                    "line 1",
		"line,name\r\n":                       "one to 300 lines",
		"name\r\nseal\r\n":                    "the column line is missing",
		"line,name,pieces\r\n,a,many\r\n":     "line 2, column pieces",
		"line,name,pieces\r\n,a,0\r\n":        "line 2, column pieces",
		"line,name,price\r\n,a,-2\r\n":        "line 2, column price",
		"line,name,price\r\n,a,\"1,250\"\r\n": "line 2, column price",
		"line,name,price\r\n,a,NaN\r\n":       "line 2, column price",
		"line,name,lead_days\r\n,a,-2\r\n":    "line 2, column lead_days",
		"line,name\r\n,\"a\r\n":               "quotation mark",
		"line,name,colour\r\n,a,red\r\n":      `"colour" is not a column`,
		"line,name\r\n,a,b\r\n":               "there is no such column",
		"line,name\r\n,\x00\r\n":              "not a text file",
		"line,name,pieces\r\n,a,1\r\n,b,\xff": "not a text file",
	} {
		_, err := report.ReadParts(text)
		assert.ErrorContains(t, err, names, "%q", text)
	}
}

func FuzzReadParts(f *testing.F) {
	f.Add("line,name,pieces,price,lead_days\r\nstrip.seal,Seal,2,12.5,3\r\n")
	f.Add("name;line\n\"a;b\";\n")
	f.Fuzz(func(t *testing.T, text string) {
		lines, err := report.ReadParts(text)
		if err != nil {
			return
		}
		require.NotEmpty(t, lines)
		for _, l := range lines {
			require.GreaterOrEqual(t, l.Pieces, 0)
			require.True(t, l.Price == nil || *l.Price >= 0)
			require.True(t, l.Lead == nil || *l.Lead >= 0)
		}
	})
}
