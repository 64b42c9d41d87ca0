// Package tables reads the tables that rules are kept in, text with a tab between cells below a line that names the
// columns, and writes those that people take out, as CSV.
package tables

import (
	"bufio"
	"fmt"
	"io"
	"io/fs"
	"strings"
)

// ReadFile reads a table of a folder, as Read does.
func ReadFile(files fs.FS, name string, columns int, take func(row []string) error) error {
	return ReadGrown(files, name, columns, columns, take)
}

// ReadGrown reads a table of a folder to which columns were added since it first was written: older ones have fewer,
// and the rest of their cells is empty.
func ReadGrown(files fs.FS, name string, least, columns int, take func(row []string) error) error {
	file, err := files.Open(name)
	if err != nil {
		return err
	}
	defer file.Close()
	return read(name, file, least, columns, take)
}

// Read calls take with the cells of each line but the first. Its errors name the table and the line.
func Read(name string, from io.Reader, columns int, take func(row []string) error) error {
	return read(name, from, columns, columns, take)
}

func read(name string, from io.Reader, least, columns int, take func(row []string) error) error {
	lines := bufio.NewScanner(from)
	for n := 1; lines.Scan(); n++ {
		row := strings.Split(lines.Text(), "\t")
		if len(row) < least || len(row) > columns {
			return fmt.Errorf("%s, line %d: %d columns, not %d", name, n, len(row), columns)
		}
		if n > 1 {
			row = append(row, make([]string, columns-len(row))...)
			if err := take(row); err != nil {
				return fmt.Errorf("%s, line %d: %w", name, n, err)
			}
		}
	}
	if err := lines.Err(); err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	return nil
}
