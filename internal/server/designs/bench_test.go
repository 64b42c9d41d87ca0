package designs_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/internal/api"
)

// BenchmarkStrip answers what the Bench asks at each change: four labels with their pictures, parts
// and findings, through the whole server.
func BenchmarkStrip(b *testing.B) {
	s := newSite(b)
	s.SignIn()
	var d api.Design
	require.Equal(b, 200, s.Do("GET", "/api/designs/2", nil, &d))
	body := api.StripRequest{Document: d.Document, RecordSetId: d.RecordSetId, Records: []int{46, 47, 48, 49}}
	var strip api.Strip
	for b.Loop() {
		require.Equal(b, 200, s.Do("POST", "/api/strip", body, &strip))
	}
	require.Len(b, strip.Labels, 4)
}

// BenchmarkPressMillion presses Print at a run of a million labels: until the answer, and until the first label is out.
func BenchmarkPressMillion(b *testing.B) {
	s := newSite(b)
	s.SignIn()
	var small, run api.Run
	require.Equal(b, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &small))
	require.Equal(b, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d/proof", small.Id), nil, nil))
	for _, query := range []string{
		`insert into records (record_set_id, number, "values") select 2, n, r."values" from generate_series(241,
				1000000) n, records r where r.record_set_id = 2 and r.number = n % 240 + 1`,
		`update record_sets set record_count = 1000000 where id = 2`,
	} {
		_, err := s.Store.DB.Exec(query)
		require.NoError(b, err)
	}
	require.Equal(b, 200, s.Do("POST", "/api/runs", `{"designId": 2, "recordSetId": 2}`, &run))
	require.Equal(b, 1_000_000, run.Labels)
	_, err := s.Store.DB.Exec(`update runs set proof = (select proof from runs where id = $1)
			where id = $2`, small.Id, run.Id) // the labels are the same
	require.NoError(b, err)
	var answered, first time.Duration
	for b.Loop() {
		before, began := s.Printer.Out(), time.Now()
		var shown api.Run
		require.Equal(b, 200, s.Do("POST", fmt.Sprintf("/api/runs/%d/prints", run.Id), `{"kind": "all"}`, &shown))
		answered += time.Since(began)
		for s.Printer.Out() == before {
			time.Sleep(time.Millisecond)
		}
		first += time.Since(began)
		b.StopTimer()
		require.Equal(b, 204, s.Do("POST", fmt.Sprintf("/api/prints/%d/cancel", shown.Prints[len(shown.Prints)-1].Id),
			`{}`, nil))
		require.Eventually(b, func() bool {
			require.Equal(b, 200, s.Do("GET", fmt.Sprintf("/api/runs/%d", run.Id), nil, &shown))
			return shown.Prints[len(shown.Prints)-1].State == "cancelled"
		}, time.Minute, 10*time.Millisecond)
		b.StartTimer()
	}
	b.ReportMetric(answered.Seconds()*1000/float64(b.N), "ms-to-answer")
	b.ReportMetric(first.Seconds()*1000/float64(b.N), "ms-to-first-label")
}
