package formula

import (
	"fmt"
	"slices"
	"sync"
)

// Lookups find values in other record sets, each of which is read when it is first needed. They are safe for concurrent
// use.
type Lookups struct {
	Read func(set string) (fields []string, records [][]string, err error)

	mutex sync.Mutex
	sets  map[string]*lookedUp
}

// lookedUp is a record set, and its records by the values of some of its fields.
type lookedUp struct {
	fields  []string
	records [][]string
	keys    map[int]map[string]int
}

// Find is a Setting's Lookup.
func (l *Lookups) Find(set, key, keyField, field string) (value string, found bool, err error) {
	l.mutex.Lock()
	defer l.mutex.Unlock()
	in := l.sets[set]
	if in == nil {
		in = &lookedUp{keys: map[int]map[string]int{}}
		if in.fields, in.records, err = l.Read(set); err != nil {
			return "", false, err
		}
		if l.sets == nil {
			l.sets = map[string]*lookedUp{}
		}
		l.sets[set] = in
	}
	by, of := slices.Index(in.fields, keyField), slices.Index(in.fields, field)
	if by < 0 || of < 0 {
		missing := keyField
		if by >= 0 {
			missing = field
		}
		return "", false, fmt.Errorf("%s has no field “%s”", set, missing)
	}
	if in.keys[by] == nil {
		in.keys[by] = map[string]int{}
		for i, record := range in.records {
			if _, known := in.keys[by][record[by]]; !known { // the first of several counts
				in.keys[by][record[by]] = i
			}
		}
	}
	i, found := in.keys[by][key]
	if !found {
		return "", false, nil
	}
	return in.records[i][of], true, nil
}
