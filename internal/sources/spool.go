package sources

import (
	"bufio"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"os"
)

// A spool keeps the rows of a file that is slow to read, so that it is read once.
type spool struct {
	file *os.File
	out  *bufio.Writer
	size []byte
}

// cheap tells whether reading the file again costs little.
func (s *Source) cheap() bool { return s.Kind == Text || s.Kind == FixedColumns || s.Kind == DBF }

func newSpool() (*spool, error) {
	file, err := os.CreateTemp("", "oddspool-rows-*")
	if err != nil {
		return nil, fmt.Errorf("keep the rows of a file: %w", err)
	}
	_ = os.Remove(file.Name()) // it is gone when it is closed, however the program ends
	return spoolOn(file), nil
}

func spoolOn(file *os.File) *spool {
	return &spool{file: file, out: bufio.NewWriterSize(file, 256<<10)}
}

func (p *spool) put(row []string) error {
	p.size = binary.AppendUvarint(p.size[:0], uint64(len(row)))
	for _, value := range row {
		p.size = binary.AppendUvarint(p.size, uint64(len(value)))
		p.size = append(p.size, value...)
	}
	if _, err := p.out.Write(p.size); err != nil {
		return fmt.Errorf("keep the rows of a file: %w", err)
	}
	return nil
}

func (p *spool) close() error { return p.file.Close() }

// rows reads what was kept, from its start.
func (p *spool) rows() (rowReader, error) {
	if err := p.out.Flush(); err != nil {
		return nil, fmt.Errorf("keep the rows of a file: %w", err)
	}
	info, err := p.file.Stat()
	if err != nil {
		return nil, fmt.Errorf("keep the rows of a file: %w", err)
	}
	return &spooledRows{in: bufio.NewReaderSize(io.NewSectionReader(p.file, 0, info.Size()), 256<<10)}, nil
}

type spooledRows struct {
	in     *bufio.Reader
	number int
}

func (r *spooledRows) next() ([]string, int, error) {
	count, err := binary.ReadUvarint(r.in)
	if err != nil {
		return nil, 0, err // io.EOF after the last
	}
	row := make([]string, count)
	for i := range row {
		size, err := binary.ReadUvarint(r.in)
		if err == nil {
			value := make([]byte, size)
			_, err = io.ReadFull(r.in, value)
			row[i] = string(value)
		}
		if err != nil {
			return nil, 0, errors.Join(errors.New("read the kept rows of a file"), err)
		}
	}
	r.number++
	return row, r.number, nil
}
