# What nobody can read at one glance: a line over 150 wide, a file over 400 lines.
# A text in quotes is as long as it is, and does not count: neither do its words
# break a line, nor a query or an example that is kept whole.

FNR == 1 { raw = 0 }
FNR == 401 { print FILENAME ": over 400 lines: give what it holds rooms of their own"; bad = 1 }
{
	ticks = gsub(/`/, "`")
	whole = raw || ticks > 0
	if (ticks % 2) raw = !raw
	if (whole) next
	gsub(/\t/, "    ")
	gsub(/"([^"\\]|\\.)*"/, "\"\"")
	if (length($0) > 150) { print FILENAME ":" FNR ": " length($0) " wide"; bad = 1 }
}
END { exit bad }
