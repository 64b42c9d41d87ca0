package sources

import (
	"errors"
	"io"
	"strings"
)

// MarkupEvents reads XML by the reader of sheets; texts that follow one another are one.
func MarkupEvents(in io.Reader) (list []string, err error) {
	m := newMarkup(in)
	said := ""
	for {
		is, err := m.next()
		if err == nil && is == chars {
			said += string(m.text)
			continue
		}
		if said != "" {
			list = append(list, "text "+said)
			said = ""
		}
		if errors.Is(err, io.EOF) {
			return list, nil
		}
		if err != nil {
			return list, errors.New(reason(err))
		}
		if is == closes {
			list = append(list, "closes "+string(m.name))
			continue
		}
		line := "opens " + string(m.name)
		for name := range strings.FieldsSeq("x a b r t space c") {
			if value := m.attribute(name); value != nil {
				line += " " + name + "=" + string(value)
			}
		}
		list = append(list, line)
	}
}
