// Package demo is the invented archipelago's part of the book: sheets,
// instruments, fleet, people.
package demo

import "embed"

// Files are its directories; docs/book.md says which holds what.
//
//go:embed *.yaml sheets
var Files embed.FS
