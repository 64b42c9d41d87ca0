package designs_test

import (
	"bytes"
	"fmt"
	"image"
	"image/png"
	"testing"

	latinmodern "github.com/go-fonts/latin-modern/lmroman10regular"
	"github.com/stretchr/testify/require"

	"oddspool/core/design"
	"oddspool/core/typeset"
	"oddspool/internal/api"
	"oddspool/internal/server/designs"
)

// Every start has a picture and begins a design on a printer that takes it, and is refused on one that does not.
func TestStartsBeginDesigns(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var all []api.Start
	require.Equal(t, 200, s.Do("GET", "/api/designs/starts", nil, &all))
	require.GreaterOrEqual(t, len(all), 24)
	began := 0
	for _, start := range all {
		_, err := png.Decode(bytes.NewReader(s.Get(start.Picture)))
		require.NoError(t, err, start.Id)
		for _, printer := range start.PrinterIds {
			var d api.Design
			require.Equal(t, 200, s.Do("POST", "/api/designs", map[string]any{"start": start.Id, "name": "Begun",
				"printerId": printer}, &d), start.Id)
			read, err := design.Parse(d.Document)
			require.NoError(t, err)
			require.Equal(t, "Begun", read.Name)
			require.NotEmpty(t, read.Elements)
			began++
			break
		}
	}
	require.Positive(t, began)
	s.Problem(404, "POST", "/api/designs", map[string]any{"start": "nothing", "printerId": 1})
	s.Problem(422, "POST", "/api/designs", map[string]any{"start": "bin"})
	s.Problem(422, "POST", "/api/designs", map[string]any{"start": "valve", "printerId": 1})
}

// A design goes out as one file with its pictures, and comes in at another plant as it was.
func TestADesignFileTravels(t *testing.T) {
	here, there := newSite(t), newSite(t)
	here.SignIn()
	there.SignIn()
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, image.NewGray(image.Rect(0, 0, 40, 30))))
	var kept api.KeptPicture
	require.Equal(t, 200, here.BringIn(file.Bytes(), &kept))
	var d api.Design
	require.Equal(t, 200, here.Do("GET", "/api/designs/1", nil, &d))
	read, err := design.Parse(d.Document)
	require.NoError(t, err)
	read.Elements = append(read.Elements, design.Element{ID: "logo", Kind: design.Picture, X: 1000, Y: 1000,
		Width: 5000, Height: 4000, Picture: &design.PictureLooks{Hash: kept.Hash, Name: "logo.png"}})
	require.Equal(t, 200, here.Do("PUT", "/api/designs/1", map[string]any{"edit": d.Edit, "document": read}, &d))

	travels := here.Get("/api/designs/1/file")
	var arrived api.Design
	require.Equal(t, 200, there.Upload("/api/designs/file", "x.zip", travels, &arrived))
	got, err := design.Parse(arrived.Document)
	require.NoError(t, err)
	require.Equal(t, read, got)
	require.Equal(t, file.Bytes(), there.Get("/api/pictures/"+kept.Hash))

	var problem api.Problem
	require.Equal(t, 422, there.Upload("/api/designs/file", "x.zip", travels[:len(travels)/2], &problem))
	require.Contains(t, problem.Text, "broken zip")
	require.Equal(t, 422, there.Upload("/api/designs/file", "x.txt", []byte("kelp"), &problem))
	require.Contains(t, problem.Text, "Line 1")
}

// Two versions are compared in words and on the label, and who else has the design open is told.
func TestVersionsAreComparedAndMerged(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	require.Equal(t, 200, s.Do("POST", "/api/designs/1/revisions", map[string]any{"why": "as approved"}, &d))
	base, err := design.Parse(d.Document)
	require.NoError(t, err)
	mine, err := design.Parse(d.Document)
	require.NoError(t, err)
	mine.Elements[0].X += 2000
	require.Equal(t, 200, s.Do("PUT", "/api/designs/1", map[string]any{"edit": d.Edit, "document": mine,
		"recordSetId": d.RecordSetId}, &d))
	var revisions []api.Revision
	require.Equal(t, 200, s.Do("GET", "/api/designs/1/revisions", nil, &revisions))
	require.Equal(t, "as approved", revisions[0].Why)

	var comparison api.Comparison
	require.Equal(t, 200, s.Do("GET", "/api/designs/1/compare?before=1&after=0", nil, &comparison))
	require.Len(t, comparison.Changes, 1)
	require.Contains(t, comparison.Changes[0].Text, "from left")
	require.Len(t, comparison.Before.Marks, 1)
	require.NotEqual(t, comparison.Before.Marks, comparison.After.Marks)
	before, after := s.Get(comparison.Before.Picture), s.Get(comparison.After.Picture)
	require.NotEqual(t, before, after)
	s.Problem(404, "GET", "/api/designs/1/compare?before=7&after=0", nil)

	theirs, err := design.Parse(d.Document)
	require.NoError(t, err)
	theirs.Elements = theirs.Elements[1:]
	var merged api.Merged
	ask := map[string]any{"base": base, "mine": mine, "theirs": theirs}
	require.Equal(t, 200, s.Do("POST", "/api/designs/merge", ask, &merged))
	require.Len(t, merged.Clashes, 1)
	require.Equal(t, "deleted", merged.Clashes[0].Theirs)
	ask["take"] = map[string]string{merged.Clashes[0].Element: "mine"}
	require.Equal(t, 200, s.Do("POST", "/api/designs/merge", ask, &merged))
	require.Empty(t, merged.Clashes)

	var others []string
	require.Equal(t, 200, s.Do("POST", "/api/designs/1/here", map[string]any{"page": "page-one"}, &others))
	require.Empty(t, others)
	require.Equal(t, 200, s.Do("POST", "/api/designs/1/here", map[string]any{"page": "page-two"}, &others))
	require.Len(t, others, 1)

	require.Equal(t, 204, s.Do("PATCH", "/api/designs/1",
		map[string]any{"tags": []string{"drying", "drying", "approved"}}, nil))
	var entries []api.DesignEntry
	require.Equal(t, 200, s.Do("GET", "/api/designs?find=approved", nil, &entries))
	require.Len(t, entries, 1)
	require.Equal(t, []string{"approved", "drying"}, entries[0].Tags)
	require.Equal(t, 204, s.Do("DELETE", "/api/designs/1", nil, nil))
	require.Equal(t, 200, s.Do("GET", "/api/designs?retired=true", nil, &entries))
	require.Len(t, entries, 1)
	require.Equal(t, 204, s.Do("POST", fmt.Sprintf("/api/designs/%d/return", entries[0].Id), nil, nil))
}

// Consecutive records are gathered to a set of their own, whose labels show several.
func TestRecordsAreGathered(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var set, made api.RecordSet
	require.Equal(t, 200, s.Do("GET", "/api/record-sets/1", nil, &set))
	require.Equal(t, 200, s.Do("POST", "/api/record-sets/1/gather", map[string]any{"fields": set.Fields[:1], "size": 4},
		&made))
	require.Equal(t, (set.Count+3)/4, made.Count)
	require.Equal(t, []string{set.Fields[0], set.Fields[0] + " 2", set.Fields[0] + " 3", set.Fields[0] + " 4"},
		made.Fields)
	require.Contains(t, s.Problem(422, "POST", "/api/record-sets/1/gather",
		map[string]any{"fields": []string{"nowhere"}, "size": 4}), "no field")
}

// A typeface is brought in once, is chosen like any other, and goes along with a design to another plant.
func TestTypefacesAreBroughtIn(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	typeset.SetSource(designs.BroughtTypefaces(s.Store))
	t.Cleanup(func() { typeset.SetSource(nil) })
	var kept api.FontFile
	font := latinmodern.TTF
	require.Equal(t, 200, s.Upload("/api/typefaces", "own.ttf", font, &kept))
	require.Equal(t, 200, s.Upload("/api/typefaces", "own.ttf", font, &kept), "the same again")
	require.NotEmpty(t, *kept.Rights)
	require.Equal(t, font, s.Get("/api/typefaces/files/"+kept.Hash))
	var names []string
	require.Equal(t, 200, s.Do("GET", "/api/typefaces", nil, &names))
	require.Contains(t, names, kept.Family)
	var files []api.FontFile
	require.Equal(t, 200, s.Do("GET", "/api/typefaces/files", nil, &files))
	require.Contains(t, files, kept)
	var problem api.Problem
	require.Equal(t, 422, s.Upload("/api/typefaces", "x.ttf", []byte("kelp"), &problem))
	require.Contains(t, problem.Text, "no font file")

	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	read, err := design.Parse(d.Document)
	require.NoError(t, err)
	for i := range read.Elements {
		if read.Elements[i].Text != nil {
			read.Elements[i].Text.Typeface = kept.Family
		}
	}
	before := s.Get("/api/designs/1/picture")
	require.Equal(t, 200, s.Do("PUT", "/api/designs/1", map[string]any{"edit": d.Edit, "document": read,
		"recordSetId": d.RecordSetId}, &d))
	require.NotEqual(t, before, s.Get("/api/designs/1/picture"), "it is set in it")
	there := newSite(t)
	there.SignIn()
	require.Equal(t, 200, there.Upload("/api/designs/file", "x.zip", s.Get("/api/designs/1/file"), &d))
	require.Equal(t, 200, there.Do("GET", "/api/typefaces", nil, &names))
	require.Contains(t, names, kept.Family)
}

// A part is shared by designs: changed once it has a next version, and each design keeps the one it has until it takes
// that.
func TestPartsAreShared(t *testing.T) {
	s := newSite(t)
	s.SignIn()
	var d api.Design
	require.Equal(t, 200, s.Do("GET", "/api/designs/1", nil, &d))
	read, err := design.Parse(d.Document)
	require.NoError(t, err)
	var part, changed api.Part
	elements := []design.Element{read.Elements[0]}
	require.Equal(t, 200, s.Do("POST", "/api/parts", map[string]any{"name": "address", "elements": elements}, &part))
	require.Equal(t, 1, part.Version)
	require.Empty(t, part.Uses)
	read.Elements[0].Group = "address"
	read.Parts = []design.SharedPart{{Group: "address", Part: part.Id, Version: 1}}
	require.Equal(t, 200, s.Do("PUT", "/api/designs/1", map[string]any{"edit": d.Edit, "document": read}, &d))

	elements[0].X += 1000
	require.Equal(t, 200, s.Do("PUT", fmt.Sprintf("/api/parts/%d", part.Id),
		map[string]any{"version": 1, "elements": elements}, &changed))
	require.Equal(t, 2, changed.Version)
	require.Contains(t, s.Problem(409, "PUT", fmt.Sprintf("/api/parts/%d", part.Id),
		map[string]any{"version": 1, "elements": elements}), "made version 2 of address")
	var parts []api.Part
	require.Equal(t, 200, s.Do("GET", "/api/parts", nil, &parts))
	require.Len(t, parts, 1)
	require.Len(t, parts[0].Uses, 1)
	require.Equal(t, 1, parts[0].Uses[0].Version, "the design keeps what it has")
	require.Contains(t, s.Problem(422, "POST", "/api/parts",
		map[string]any{"name": "bad", "elements": []any{map[string]any{"id": "x", "kind": "spiral"}}}), "elements[0]")
	require.Equal(t, 204, s.Do("DELETE", fmt.Sprintf("/api/parts/%d", part.Id), nil, nil))
	s.Problem(404, "DELETE", fmt.Sprintf("/api/parts/%d", part.Id), nil)
}
