package records_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
)

// A file of a name that is here already shows what is different, and takes the place of the other or stands beside it.
func TestTheSameFileAgain(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var first, second api.RecordSet
	var preview api.Preview
	const before, now = "bin,contents,lot\nN-1,Dulse,A\nN-2,Kelp,A\nN-3,Laver,A\n",
		"bin,contents,shelf\nN-1,Dulse,1\nN-2,Sugar kelp,1\nN-4,Sea lettuce,2\n"
	require.Equal(t, 200, s.Form("/api/record-sets/preview", "seaweed.csv", before, nil, &preview))
	require.Nil(t, preview.Same)
	require.Equal(t, 200, s.Form("/api/record-sets", "seaweed.csv", before, nil, &first))

	preview = api.Preview{}
	require.Equal(t, 200, s.Form("/api/record-sets/preview", "seaweed.csv", before, nil, &preview))
	require.Equal(t, []any{first.Id, 0, 0, 0}, []any{preview.Same.Set.Id, preview.Same.Changes.New,
		preview.Same.Changes.Gone, preview.Same.Changes.Changed}, "nothing is different")
	preview = api.Preview{}
	require.Equal(t, 200, s.Form("/api/record-sets/preview", "seaweed.csv", now, nil, &preview))
	c := preview.Same.Changes
	require.Equal(t, []int{1, 1, 1}, []int{c.New, c.Gone, c.Changed})
	require.Equal(t, []string{"shelf"}, *c.NewFields)
	require.Equal(t, []string{"lot"}, *c.GoneFields)

	// Without a word it is a second set.
	require.Equal(t, 200, s.Form("/api/record-sets", "seaweed.csv", before, nil, &second))
	require.NotEqual(t, first.Id, second.Id)
	var sets []api.RecordSet
	require.Equal(t, 200, s.Do("GET", "/api/record-sets", nil, &sets))
	here := func(id int64) bool {
		for _, set := range sets {
			if set.Id == id {
				return true
			}
		}
		return false
	}
	require.True(t, here(first.Id) && here(second.Id))

	// In the place of one, designs go over; but not in silence where a field is gone that they use.
	d := s.Keep(t, "bin-label.json", 1)
	document := map[string]any{}
	require.NoError(t, json.Unmarshal(d.Document, &document))
	document["elements"] = []any{map[string]any{"id": "lot", "kind": "text", "x": 3000, "y": 3000, "width": 30000,
		"height": 8000, "says": []any{map[string]any{"field": "lot"}},
		"text": map[string]any{"typeface": "Liberation Sans", "points": 10}}}
	require.Equal(t, 200, s.Do("PUT", fmt.Sprintf("/api/designs/%d", d.Id),
		map[string]any{"document": document, "edit": d.Edit, "recordSetId": second.Id}, &d))
	var problem api.Problem
	words := map[string]string{"replaces": fmt.Sprint(second.Id)}
	require.Equal(t, 409, s.Form("/api/record-sets", "seaweed.csv", now, words, &problem))
	require.Contains(t, problem.Text, "has no lot any more")
	words["anyway"] = "yes"
	var third api.RecordSet
	require.Equal(t, 200, s.Form("/api/record-sets", "seaweed.csv", now, words, &third))
	sets = nil
	require.Equal(t, 200, s.Do("GET", "/api/record-sets", nil, &sets))
	require.True(t, here(first.Id) && here(third.Id) && !here(second.Id))
	require.Equal(t, 200, s.Do("GET", fmt.Sprintf("/api/designs/%d", d.Id), nil, &d))
	require.Equal(t, third.Id, *d.RecordSetId)
	require.Equal(t, 409, s.Form("/api/record-sets", "seaweed.csv", now, words, &problem),
		"somebody replaced it meanwhile")
	require.Equal(t, 422, s.Form("/api/record-sets", "seaweed.csv", now, map[string]string{"replaces": "all"},
		&problem))
}
