package sources

import (
	"io"
	"iter"
)

// Take reads all rows of a table that comes from elsewhere than a file, the first of which names its fields, and keeps
// them: bounded, named and told as those of files are. Its error is a *FileError, or that of a row.
func Take(kind Kind, rows iter.Seq2[[]string, error]) (*Source, error) {
	next, stop := iter.Pull2(rows)
	defer stop()
	s := &Source{Kind: kind, named: true, alive: func() {}, rows: func() (rowReader, error) {
		return &given{pull: next},
			nil
	}}
	if err := s.scan(scanOptions{}); err != nil {
		_ = s.Close() // what is wrong with the rows counts
		return nil, err
	}
	return s, nil
}

// given are rows that come one by one from elsewhere.
type given struct {
	pull   func() ([]string, error, bool)
	number int // of rows that came
}

func (g *given) next() ([]string, int, error) {
	row, err, some := g.pull()
	if !some {
		return nil, 0, io.EOF
	}
	g.number++
	return row, g.number - 1, err // the names are row 0
}
