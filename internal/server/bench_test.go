package server_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
)

// BenchmarkStrip answers what the Bench asks at each change: four labels with their pictures, parts
// and findings, through the whole server.
func BenchmarkStrip(b *testing.B) {
	s := newSite(b)
	s.signIn()
	var d api.Design
	require.Equal(b, 200, s.do("GET", "/api/designs/2", nil, &d))
	body := api.StripRequest{Document: d.Document, RecordSetId: d.RecordSetId, Records: []int{46, 47, 48, 49}}
	var strip api.Strip
	for b.Loop() {
		require.Equal(b, 200, s.do("POST", "/api/strip", body, &strip))
	}
	require.Len(b, strip.Labels, 4)
}
