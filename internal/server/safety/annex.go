package safety

import (
	"bytes"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"oddspool/core/safety/reference"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// AddAnnex implements api.StrictServerInterface.
func (s *Safety) AddAnnex(ctx context.Context, req api.AddAnnexRequestObject) (api.AddAnnexResponseObject, error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	source, err := sources.Open(ctx, bytes.NewReader(u.Data), int64(len(u.Data)), u.Settings)
	if err != nil {
		return nil, err
	}
	defer source.Close()
	var records [][]string
	for record, err := range source.Records() {
		if err != nil {
			return nil, err
		}
		records = append(records, record)
	}
	from, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	files, read, err := from.WithAnnex(source.Fields, records)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Packs(ctx)
	if err != nil {
		return nil, err
	}
	about := reference.About{Version: nextVersion(from.Version, kept), Date: time.Now().Format(time.DateOnly),
		By: s.User(ctx),
		Notes: fmt.Sprintf("%d substances of %s, %d rows, onto the pack %s", len(read.Substances), u.Name, len(records),
			from.Version)}
	var data bytes.Buffer
	if err := reference.Write(&data, about, files, nil); err != nil {
		return nil, err
	}
	made, err := reference.Kept(data.Bytes())
	if err != nil {
		return nil, err
	}
	if err := s.Store.KeepPack(ctx, made, data.Bytes(), s.User(ctx)); err != nil {
		return nil, err
	}
	shown, err := s.reference(ctx,
		fmt.Sprintf("%s is made of the table: %d of its %d rows are substances of it. It is not in use until you "+
			"take it.", made.Version, len(read.Substances), len(records)))
	told := make([]struct {
		Index string `json:"index"`
		Row   int    `json:"row"`
		Text  string `json:"text"`
	}, len(read.Told))
	for i, t := range read.Told {
		told[i].Index, told[i].Row, told[i].Text = t.Index, t.Row, t.Text
	}
	shown.Told = &told
	return api.AddAnnex200JSONResponse(shown), err
}

// nextVersion returns a version that follows one and is not here yet.
func nextVersion(from string, kept []store.KeptPack) string {
	base := from
	if parts := strings.Split(from, "."); len(parts) == mostVersionParts {
		base = strings.Join(parts[:mostVersionParts-1], ".")
	}
	for n := 1; ; n++ {
		version := fmt.Sprintf("%s.%d", base, n)
		if reference.Newer(version, from) &&
			!slices.ContainsFunc(kept, func(p store.KeptPack) bool { return p.Version == version }) {
			return version
		}
	}
}
