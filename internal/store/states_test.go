package store_test

import (
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

var quoted = regexp.MustCompile(`'([a-z ]+)'`)

func inQuotes(text string) (found []string) {
	for _, match := range quoted.FindAllStringSubmatch(text, -1) {
		found = append(found, match[1])
	}
	slices.Sort(found)
	return found
}

// The database knows the states and changes of the table in states.go, and no others.
func TestStatesAreThoseOfTheDatabase(t *testing.T) {
	s := testkit.Store(t)
	for table, from := range store.Transitions {
		var states, changes []string
		for state, to := range from {
			states = append(states, state)
			for _, next := range to {
				require.Contains(t, from, next, "%s of %s", next, table)
				changes = append(changes, state+" "+next)
			}
		}
		slices.Sort(states)
		slices.Sort(changes)
		var constraint, trigger string
		require.NoError(t, s.DB.Get(&constraint, `select pg_get_constraintdef(oid) from pg_constraint where conrelid = $1::regclass
			and contype = 'c' and conname = $1 || '_state_check'`, table), table)
		require.Equal(t, states, inQuotes(constraint), "states of %s", table)
		require.NoError(t, s.DB.Get(&trigger, `select pg_get_triggerdef(oid) from pg_trigger where tgrelid = $1::regclass
			and tgname = 'state_kept'`, table), table)
		_, arguments, _ := strings.Cut(trigger, "EXECUTE FUNCTION")
		require.Equal(t, changes, inQuotes(arguments), "changes of %s", table)
	}
}
