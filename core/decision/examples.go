package decision

import "embed"

//go:embed examples
var examples embed.FS // a worked input for each calculator of the chapter
