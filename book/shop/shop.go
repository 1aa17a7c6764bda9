// Package shop is the part of the book that ships for every workshop.
package shop

import "embed"

// Files are its directories; docs/book.md says which holds what.
//
//go:embed *.yaml diagnosis fragments routes
var Files embed.FS
