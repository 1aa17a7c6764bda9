package report

import (
	"io"
	"strconv"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
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
		if n := row.count(&faults, partsColumns, 2, "a whole number from 1", 1); n != nil {
			l.Pieces = *n
		}
		if cell := row.cells[5]; cell != "" {
			price, err := quantity.ReadMoney(cell)
			if err != nil || price < 0 {
				faults.Add(
					"text",
					"an amount from 0, like 12.50",
					"%s: %q is not an amount",
					row.at(partsColumns, 5),
					cell,
				)
			}
			l.Price = &price
		}
		l.Lead = row.count(&faults, partsColumns, 6, "days from today, 0 or more", 0)
		lines = append(lines, l)
	}
	if err := faults.Err(); err != nil {
		return nil, err
	}
	return lines, nil
}

func money(n *quantity.Money) string {
	if n == nil {
		return ""
	}
	return n.Plain()
}

func whole(n *quantity.Count) string {
	if n == nil {
		return ""
	}
	return strconv.Itoa(int(*n))
}
