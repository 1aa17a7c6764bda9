// Package core is the trade as pure Go, one package a chapter: no input or
// output, no clock, no state. The catalogue is in core/calc.
package core
