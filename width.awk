# What nobody can read at one glance: a line of TypeScript over 120 wide, any over
# 200, a file over 400 lines. Go is kept at 120 by its formatter; a list of classes,
# a path that is drawn or a raw text, a query, an example, need not be broken.

FNR == 1 { raw = 0; go = FILENAME ~ /[.]go$/ }
FNR == 401 { print FILENAME ": over 400 lines: give what it holds rooms of their own"; bad = 1 }
{
	gsub(/\t/, "    ")
	if (length($0) > 200) { print FILENAME ":" FNR ": " length($0) " wide"; bad = 1 }
	ticks = gsub(/`/, "`")
	whole = raw || ticks > 0 || go
	if (ticks % 2) raw = !raw
	if (whole) next
	gsub(/className="[^"]*"| d="[^"]*"/, "\"\"")
	if (length($0) > 120) { print FILENAME ":" FNR ": " length($0) " wide"; bad = 1 }
}
END { exit bad }
