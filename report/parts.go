package report

import (
	"io"
	"math"
	"strconv"
	"strings"

	"handwerk/core/input"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/order"
)

var partsColumns = []string{"line", "name", "pieces", "kind", "supplier", "price", "lead_days", "why", "state", "due"}

// mostPartLines a table of parts may have.
const mostPartLines = 300

// WriteParts writes a parts list as CSV: a line for each kit and each part, a
// part in a kit without supplier and price.
func WriteParts(w io.Writer, list *order.OrderStep) error {
	var rows [][]string
	for _, g := range list.Groups {
		for _, l := range g.Lines {
			supplier := l.Supplier
			if l.In != "" {
				supplier = "" // it comes with its kit, whoever sells that
			}
			rows = append(rows, []string{
				l.Line, l.Name, strconv.Itoa(l.Pieces), l.Kind, supplier, money(l.Price), whole(l.Lead), l.Why,
				string(l.State), l.Due,
			})
		}
	}
	return writeTable(w, partsColumns, rows)
}

// ReadParts reads it, or what a supplier made of it: names, pieces, suppliers,
// prices and lead times. A line without an id is a new one; what is empty stays
// as it is, and what state a line is in is not read: that is said by an order
// and a delivery.
func ReadParts(text string) ([]acts.OrderLine, error) {
	rows, err := readTable(text, partsColumns, 2, mostPartLines)
	if err != nil {
		return nil, err
	}
	if len(rows) == 0 {
		return nil, input.At("text", "one to 300 lines", "there is none")
	}
	var faults input.Fields
	lines := []acts.OrderLine{}
	for _, row := range rows {
		l := acts.OrderLine{
			Line: row.cells[0], Name: row.cells[1], Kind: strings.ToLower(row.cells[3]), Supplier: row.cells[4],
			Reason: row.cells[7],
		}
		if l.Line != "" {
			l.Kind, l.Reason = "", "" // they stay what the list has them to be
		}
		if cell := row.cells[2]; cell != "" {
			n, err := strconv.Atoi(cell)
			if err != nil || n < 1 {
				faults.Add("text", "a whole number from 1", "%s: %q is none", row.at(partsColumns, 2), cell)
			}
			l.Pieces = n
		}
		if cell := strings.Replace(row.cells[5], ",", ".", 1); cell != "" {
			n, err := strconv.ParseFloat(cell, 64)
			if err != nil || !(n >= 0) || math.IsInf(n, 0) {
				faults.Add("text", "a sum of money from 0", "%s: %q is none", row.at(partsColumns, 5), row.cells[5])
			}
			l.Price = &n
		}
		if cell := row.cells[6]; cell != "" {
			n, err := strconv.Atoi(cell)
			if err != nil || n < 0 {
				faults.Add("text", "days from today, 0 or more", "%s: %q cannot be waited for",
					row.at(partsColumns, 6), cell)
			}
			l.Lead = &n
		}
		lines = append(lines, l)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return lines, nil
}

func money(n *float64) string {
	if n == nil {
		return ""
	}
	return strconv.FormatFloat(*n, 'f', -1, 64)
}

func whole(n *int) string {
	if n == nil {
		return ""
	}
	return strconv.Itoa(*n)
}
