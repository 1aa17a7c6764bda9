package report

import (
	"io"
	"math"
	"strconv"

	"handwerk/core/input"
	"handwerk/workshop/shop"
)

var drawerColumns = []string{"size", "count", "name", "place", "least"}

// mostSizes a table of a drawer may have.
const mostSizes = 2000

// WriteDrawerTable writes what lies in a drawer as CSV.
func WriteDrawerTable(w io.Writer, d shop.DrawerPage) error {
	var rows [][]string
	for _, i := range d.Items {
		rows = append(rows, []string{i.Size, strconv.Itoa(i.Count), i.Name, i.Place, strconv.Itoa(i.Least)})
	}
	return writeTable(w, drawerColumns, rows)
}

// ReadDrawerTable reads it, or what a shop counted elsewhere; what a line leaves
// empty stays as it is.
func ReadDrawerTable(text string) ([]shop.DrawerLine, error) {
	rows, err := readTable(text, drawerColumns, 2, mostSizes)
	if err != nil {
		return nil, err
	}
	var faults input.Fields
	lines := []shop.DrawerLine{}
	for _, row := range rows {
		l := shop.DrawerLine{Size: row.cells[0], Name: said(row.cells[2]), Place: said(row.cells[3])}
		l.Count = row.count(&faults, drawerColumns, 1, "a whole number", math.MinInt)
		l.Least = row.count(&faults, drawerColumns, 4, "a whole number", math.MinInt)
		lines = append(lines, l)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return lines, nil
}

func said(cell string) *string {
	if cell == "" {
		return nil
	}
	return &cell
}
