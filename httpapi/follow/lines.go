package follow

import (
	"bytes"

	"handwerk/core/metrology"
)

// splitter parts a stream into lines at LF, CR LF and CR. A line that is longer
// than any of a gauge is held up to that length, and so is rubbish, whatever comes.
type splitter struct {
	line []byte
	open int  // bytes since the last line end
	cr   bool // the last byte was one: a line feed after it ends nothing
}

func (s *splitter) take(chunk []byte, each func(line string)) {
	for len(chunk) > 0 {
		if s.cr && chunk[0] == '\n' {
			chunk = chunk[1:]
		}
		s.cr = false
		end := bytes.IndexAny(chunk, "\r\n")
		if end < 0 {
			s.hold(chunk)
			return
		}
		s.hold(chunk[:end])
		each(string(s.line))
		s.line, s.open = s.line[:0], 0
		s.cr = chunk[end] == '\r'
		chunk = chunk[end+1:]
	}
}

func (s *splitter) hold(part []byte) {
	s.open += len(part)
	room := metrology.MaxGaugeLine + 1 - len(s.line)
	s.line = append(s.line, part[:min(len(part), room)]...)
}
