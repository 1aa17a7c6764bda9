package report

import (
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// tableRow is a line of a table; its cells stand in the order that was asked for.
type tableRow struct {
	line  int
	cells []string
}

// count reads a cell as a whole number; nil where it is empty.
func (r tableRow) count(faults *input.Fields, columns []string, i int, accepted string, least quantity.Count,
) *quantity.Count {
	if r.cells[i] == "" {
		return nil
	}
	var n quantity.Count
	if err := n.UnmarshalText([]byte(r.cells[i])); err != nil || n < least {
		faults.Add("text", accepted, "%s: %q is not possible here", r.at(columns, i), r.cells[i])
	}
	return &n
}

// at names a cell of the text, for a fault.
func (r tableRow) at(columns []string, i int) string {
	return fmt.Sprintf("line %d, column %s", r.line, columns[i])
}

// writeTable writes a table with its header, as RFC 4180 has it.
func writeTable(w io.Writer, columns []string, rows [][]string) error {
	out := csv.NewWriter(w)
	out.UseCRLF = true
	if err := out.Write(columns); err != nil {
		return err
	}
	for _, row := range rows {
		for i, cell := range row {
			row[i] = harmless(cell)
		}
	}
	return out.WriteAll(rows)
}

// harmless puts an apostrophe before what a spreadsheet would run as a formula
// (OWASP, CSV injection); plain puts it away again when the table is read.
func harmless(cell string) string {
	if startsFormula(cell) || strings.HasPrefix(cell, "'") {
		return "'" + cell
	}
	return cell
}

func plainCell(cell string) string {
	if rest, ok := strings.CutPrefix(cell, "'"); ok && (startsFormula(rest) || strings.HasPrefix(rest, "'")) {
		return rest
	}
	return cell
}

// startsFormula tells of a cell that begins as one. A number with its sign is none.
func startsFormula(cell string) bool {
	return cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0])) && !aNumber.MatchString(cell)
}

// readTable reads text whose first line names the columns, in any order, with
// comma, semicolon or tab between them, with or without a byte-order mark.
// Columns from the required-th on may be left out. Faults name line and column.
func readTable(text string, columns []string, required, most int) ([]tableRow, error) {
	text = strings.TrimPrefix(text, "\ufeff")
	if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
		return nil, input.At("text", "a table as UTF-8 text", "this is not a text file")
	}
	head, _, _ := strings.Cut(text, "\n")
	in := csv.NewReader(strings.NewReader(text))
	in.Comma, in.FieldsPerRecord, in.ReuseRecord = separator(head), -1, true
	at, width, err := header(in, columns, required)
	if err != nil {
		return nil, err
	}
	var rows []tableRow
	for {
		record, err := in.Read()
		if errors.Is(err, io.EOF) {
			return rows, nil
		}
		if err != nil {
			return nil, garbledTable(err)
		}
		line, _ := in.FieldPos(0)
		switch {
		case len(rows) == most:
			return nil, input.At("text", fmt.Sprintf("up to %d lines", most),
				"line %d: too many lines", line)
		case len(record) > width:
			return nil, input.At("text", fmt.Sprintf("%d columns", width),
				"line %d, column %d: there is no such column", line, width+1)
		}
		row := tableRow{line, make([]string, len(columns))}
		for i, k := range at {
			if k >= 0 && k < len(record) {
				row.cells[i] = plainCell(strings.TrimSpace(record[k]))
			}
		}
		rows = append(rows, row)
	}
}

// separator is what stands most often between the names of the first line.
func separator(head string) rune {
	best := ','
	for _, s := range []rune{';', '\t'} {
		if strings.Count(head, string(s)) > strings.Count(head, string(best)) {
			best = s
		}
	}
	return best
}

// header finds where each column stands; -1 where it is left out.
func header(in *csv.Reader, columns []string, required int) (at []int, width int, err error) {
	names, err := in.Read()
	if err != nil {
		if errors.Is(err, io.EOF) {
			return nil, 0, input.At("text", strings.Join(columns, ", "), "line 1 is empty")
		}
		return nil, 0, garbledTable(err)
	}
	seen := map[string]int{}
	for i, name := range names {
		name = strings.ToLower(strings.TrimSpace(name))
		if _, twice := seen[name]; twice || !slices.Contains(columns, name) {
			return nil, 0, input.At("text", strings.Join(columns, ", "),
				"line 1, column %d: %q is not a column, or is listed twice", i+1, name)
		}
		seen[name] = i
	}
	for i, name := range columns {
		k, there := seen[name]
		if !there {
			if i < required {
				return nil, 0, input.At("text", strings.Join(columns, ", "), "line 1: the column %s is missing", name)
			}
			k = -1
		}
		at = append(at, k)
	}
	return at, len(names), nil
}

func garbledTable(err error) error {
	var bad *csv.ParseError
	if errors.As(err, &bad) {
		return input.At("text", "close every quotation mark", "line %d, column %d: %s", bad.Line,
			bad.Column, bad.Err)
	}
	return err
}
