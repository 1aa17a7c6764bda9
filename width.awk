# What nobody can read at one glance: a line over 150 wide, a file over 400 lines.
# A text in quotes may go on to 200, so that its words, a query or an example
# need not be broken at every line.

FNR == 1 { raw = 0 }
FNR == 401 { print FILENAME ": over 400 lines: give what it holds rooms of their own"; bad = 1 }
{
	gsub(/\t/, "    ")
	if (length($0) > 200) { print FILENAME ":" FNR ": " length($0) " wide"; bad = 1 }
	ticks = gsub(/`/, "`")
	whole = raw || ticks > 0
	if (ticks % 2) raw = !raw
	if (whole) next
	gsub(/"([^"\\]|\\.)*"/, "\"\"")
	if (length($0) > 150) { print FILENAME ":" FNR ": " length($0) " wide"; bad = 1 }
}
END { exit bad }
