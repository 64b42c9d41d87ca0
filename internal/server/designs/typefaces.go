package designs

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"slices"
	"sync"

	"oddspool/core/typeset"
	"oddspool/internal/api"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// ownFiles are the font files that come with the program, with the hashes of their bytes (SHA-256).
var ownFiles = sync.OnceValue(func() (own []typeset.File) {
	for _, f := range typeset.Files() {
		if f.Hash != "" { // somebody brought it in
			continue
		}
		sum := sha256.Sum256(f.Data())
		f.Hash = hex.EncodeToString(sum[:])
		own = append(own, f)
	}
	return own
})

// ListTypefaces implements api.StrictServerInterface.
func (s *Designs) ListTypefaces(ctx context.Context, _ api.ListTypefacesRequestObject) (api.ListTypefacesResponseObject,
	error) {
	var names []string
	for _, f := range ownFiles() {
		if !f.StandsIn && !slices.Contains(names, f.Family) {
			names = append(names, f.Family)
		}
	}
	brought, err := s.Store.Typefaces(ctx, "")
	for _, t := range brought {
		if !slices.Contains(names, t.Family) {
			names = append(names, t.Family)
		}
	}
	return api.ListTypefaces200JSONResponse(names), err
}

// AddTypeface implements api.StrictServerInterface.
func (s *Designs) AddTypeface(ctx context.Context, req api.AddTypefaceRequestObject) (api.AddTypefaceResponseObject,
	error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	kept, err := s.keepTypeface(ctx, u.Data)
	return api.AddTypeface200JSONResponse(kept), err
}

// keepTypeface takes a font file in.
func (s *Designs) keepTypeface(ctx context.Context, data []byte) (api.FontFile, error) {
	f, rights, err := typeset.Inspect(data)
	if err != nil {
		return api.FontFile{}, err
	}
	own := slices.ContainsFunc(ownFiles(), func(o typeset.File) bool { return o.Family == f.Family })
	if own {
		return api.FontFile{}, handler.Refused(f.Family +
			" comes with Odd Spool, and labels were made with that one. Give the new one another name.")
	}
	kept := store.Typeface{Hash: f.Hash, Family: f.Family, Bold: f.Bold, Italic: f.Italic, Rights: string(rights),
		Data: data, BroughtBy: s.User(ctx)}
	if err := s.Store.AddTypeface(ctx, kept); err != nil {
		return api.FontFile{}, err
	}
	typeset.Register(f)
	return fontFile(kept), nil
}

func fontFile(t store.Typeface) api.FontFile {
	return api.FontFile{Family: t.Family, Bold: t.Bold, Italic: t.Italic, Hash: t.Hash, Rights: &t.Rights}
}

// BroughtTypefaces has the typefaces that people brought in found by package typeset: another server may have taken
// them in.
func BroughtTypefaces(s *store.Store) func(family string) {
	return func(family string) {
		brought, err := s.Typefaces(context.Background(), family)
		if err != nil {
			return // the family stays unknown, which is said where it is used
		}
		for _, t := range brought {
			typeset.Register(typeset.File{Family: t.Family, Bold: t.Bold, Italic: t.Italic, Hash: t.Hash,
				Data: func() []byte { return t.Data }})
		}
	}
}

// ListFontFiles implements api.StrictServerInterface.
func (s *Designs) ListFontFiles(ctx context.Context, _ api.ListFontFilesRequestObject) (api.ListFontFilesResponseObject,
	error) {
	answer := api.ListFontFiles200JSONResponse{}
	for _, f := range ownFiles() {
		answer = append(answer, api.FontFile{Family: f.Family, Bold: f.Bold, Italic: f.Italic, StandsIn: f.StandsIn,
			Scripts: new(append([]string{}, f.Scripts...)), Hash: f.Hash})
	}
	brought, err := s.Store.Typefaces(ctx, "")
	for _, t := range brought {
		answer = append(answer, fontFile(t))
	}
	return answer, err
}

// GetFontFile implements api.StrictServerInterface.
func (s *Designs) GetFontFile(ctx context.Context, req api.GetFontFileRequestObject) (api.GetFontFileResponseObject,
	error) {
	answer := func(data []byte) (api.GetFontFileResponseObject, error) {
		return api.GetFontFile200FontttfResponse{Body: bytes.NewReader(data), ContentLength: int64(len(data)),
			Headers: api.GetFontFile200ResponseHeaders{CacheControl: new(handler.ForGood)}}, nil
	}
	for _, f := range ownFiles() {
		if f.Hash == req.Hash {
			return answer(f.Data())
		}
	}
	brought, err := s.Store.Typefaces(ctx, "")
	if err != nil {
		return nil, err
	}
	for _, t := range brought {
		if t.Hash != req.Hash {
			continue
		}
		faces, err := s.Store.Typefaces(ctx, t.Family)
		if err != nil {
			return nil, err
		}
		for _, face := range faces {
			if face.Hash == req.Hash {
				return answer(face.Data)
			}
		}
	}
	return nil, noFontFile.With()
}
