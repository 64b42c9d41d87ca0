package store_test

import (
	"errors"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"oddspool/core/batch"
	"oddspool/core/design"
	"oddspool/core/questions"
	"oddspool/examples"
	"oddspool/internal/store"
	"oddspool/internal/testkit"
)

// Formulas look records up in the newest set of a name that is in the list.
func TestRecordsAreLookedUp(t *testing.T) {
	s := testkit.Store(t)
	old, err := s.AddRecordSet(ctx, "parts", []string{"part", "name"}, [][]string{{"K-1", "Dulse"}}, "Maren")
	require.NoError(t, err)
	_, err = s.AddRecordSet(ctx, "parts", []string{"part", "name", "shelf"}, [][]string{{"K-1", "Dulse, flaked", "A2"},
		{"K-2", "Kombu", "A10"}, {"K-1", "again", "B1"}}, "Maren")
	require.NoError(t, err)
	setting := s.Setting(ctx, time.Time{})
	value, found, err := setting.Lookup("parts", "K-1", "part", "name")
	require.NoError(t, err)
	require.True(t, found)
	require.Equal(t, "Dulse, flaked", value, "of the newest set, the first record with that key")
	value, found, err = setting.Lookup("parts", "A10", "shelf", "part")
	require.NoError(t, err)
	require.True(t, found)
	require.Equal(t, "K-2", value)
	_, found, err = setting.Lookup("parts", "K-9", "part", "name")
	require.NoError(t, err)
	require.False(t, found)
	_, _, err = setting.Lookup("parts", "K-1", "number", "name")
	require.ErrorContains(t, err, "parts has no field “number”")
	_, _, err = setting.Lookup("parts", "K-1", "part", "price")
	require.ErrorContains(t, err, "parts has no field “price”")
	_, _, err = setting.Lookup("nosuch", "K-1", "part", "name")
	require.ErrorContains(t, err, "there is no record set “nosuch”")
	require.NoError(t, s.RetireRecordSet(ctx, old.ID))
}

// Records that replace others do so once, all or none, and designs go over to them.
func TestRecordsAreReplacedOnce(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3)
	checks := []questions.Question{{Kind: "text", Name: "bin"}}
	made, err := s.WriteRecordSet(ctx, plan.RecordSetID, "bins.csv", []string{"bin"}, [][]string{{"N-9"}}, checks,
		"Maren")
	require.NoError(t, err)
	require.Equal(t, checks, made.Checks.V, "what its fields must be comes with it")
	_, err = s.WriteRecordSet(ctx, plan.RecordSetID, "bins.csv", []string{"bin"}, [][]string{{"N-8"}}, checks, "Ines")
	require.ErrorIs(t, err, store.ErrRecordsReplaced, "somebody else was quicker")
	sets, err := s.RecordSets(ctx)
	require.NoError(t, err)
	require.Len(t, sets, 1, "nothing of the second was kept")
	require.Equal(t, made.ID, sets[0].ID)
	designs, err := s.Designs(ctx, "", false)
	require.NoError(t, err)
	require.Equal(t, made.ID, *designs[0].RecordSetID)
	records, err := s.Records(ctx, *plan.RecordSetID, 1, 10)
	require.NoError(t, err)
	require.Len(t, records, 3, "what was printed from it stays")

	_, err = s.WriteRecordSet(ctx, nil, "odd.csv", []string{"bin"}, [][]string{{"N-7"}},
		[]questions.Question{{Name: "no \x00 in PostgreSQL"}}, "Maren")
	require.Error(t, err)
	sets, err = s.RecordSets(ctx)
	require.NoError(t, err)
	require.Len(t, sets, 1, "records whose checks cannot be kept are not kept either")
}

// Records that break off while they are read leave nothing behind.
func TestRecordsComeInWholeOrNotAtAll(t *testing.T) {
	s := testkit.Store(t)
	broken := errors.New("the file ends")
	for name, records := range map[string]func(func([]string, error) bool){
		"broken off": func(yield func([]string, error) bool) { _ = yield([]string{"N-1"}, nil) && yield(nil, broken) },
		"too few":    func(yield func([]string, error) bool) { yield([]string{"N-1"}, nil) },
	} {
		_, err := s.TakeRecordSet(ctx, "bins", []string{"bin"}, 3, records, "Maren")
		require.Error(t, err, name)
	}
	sets, err := s.RecordSets(ctx)
	require.NoError(t, err)
	require.Empty(t, sets)
}

// A run keeps what was answered, what quantities were taken for, and the moment of its first print.
func TestRunsKeepAnswersAndTheirMoment(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 4)
	data, err := examples.Files.ReadFile("bin-label.json")
	require.NoError(t, err)
	d, err := s.AddDesign(ctx, "Asks", data, nil, nil, "Maren")
	require.NoError(t, err)
	revision, err := s.KeepRevision(ctx, d.ID, "", "Maren")
	require.NoError(t, err)
	plan.RevisionID = revision.ID
	plan.Answers = map[string]string{"batch": "26K104"}
	plan.Taken = []batch.Taken{{Record: 2, Field: "qty", Value: "many"}}
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	run, err := s.Run(ctx, id)
	require.NoError(t, err)
	require.Nil(t, run.Moment)
	require.Equal(t, plan.Taken, run.Taken.V)
	composed, err := s.ToCompose(ctx, &run)
	require.NoError(t, err)
	require.Equal(t, plan.Answers, composed.Answers)
	require.WithinDuration(t, time.Now(), composed.Setting.Now, time.Minute)
	copies, err := s.CopiesOf(ctx, id, []int{3, 99, 1})
	require.NoError(t, err)
	require.Equal(t, []int{2, 0, 2}, copies)

	plan.Answers = map[string]string{"batch": "26K105"}
	require.NoError(t, s.ChangeRun(ctx, id, plan, "Maren"))
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "sample", Labels: []int{1}, By: "Maren"})
	require.NoError(t, err)
	require.NotZero(t, print)
	run, err = s.Run(ctx, id)
	require.NoError(t, err)
	require.NotNil(t, run.Moment)
	composed, err = s.ToCompose(ctx, &run)
	require.NoError(t, err)
	require.Equal(t, "26K105", composed.Answers["batch"])
	require.True(t, run.Moment.Equal(composed.Setting.Now))
	require.ErrorIs(t, s.ChangeRun(ctx, id, plan, "Maren"), store.ErrRunBusy)

	run.Document = []byte(`{}`)
	_, err = s.ToCompose(ctx, &run)
	require.IsType(t, &design.FaultsError{}, err)
}

// A run is found again by a part of a value, by what was answered, and by what is in a chip.
func TestRunsAreFoundByPartsAnswersAndChips(t *testing.T) {
	s := testkit.Store(t)
	plan := plant(t, s, 3) // bins N-001 to N-003
	plan.Answers = map[string]string{"shift": "late tide"}
	id, err := s.PrepareRun(ctx, plan, "Maren")
	require.NoError(t, err)
	_, err = s.DB.Exec(`insert into run_answers (run_id, record, copy, name, answer) values ($1, 1, 0, 'weight',
			'12.5')`, id)
	require.NoError(t, err)
	print, err := s.StartPrint(ctx, store.Order{Run: id, Kind: "all", By: "Maren"})
	require.NoError(t, err)
	_, err = s.DB.Exec(`insert into tags (print_id, run_id, label, tid, epc, user_memory, outcome, why) values ($1, $2,
			1, 'E280116A', '3034257BF400', '', 'written', '')`, print, id)
	require.NoError(t, err)
	for text, found := range map[string]bool{"-002": true, "N-00": true, "late tide": true, "tide": true, "12.5": true,
		"3034257bf400": true, "e280116a": true, "-009": false, "%": false, "early": false} {
		runs, err := s.Runs(ctx, store.RunsWanted{Words: text, Values: []string{text}, Part: text, Most: 10})
		require.NoError(t, err)
		require.Equal(t, found, len(runs) == 1, text)
	}
}
