package safety

import (
	"bytes"
	"cmp"
	"context"
	"crypto/ed25519"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"oddspool/core/design"
	"oddspool/core/refusal"
	"oddspool/core/safety/hazard"
	"oddspool/core/safety/reference"
	"oddspool/core/safety/symbols"
	"oddspool/internal/api"
	"oddspool/internal/reach"
	"oddspool/internal/server/designs"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// An Issuer is who issues reference packs.
type Issuer struct {
	Keys    []ed25519.PublicKey // that packs are signed with; none: none are taken
	Address string              // a folder of the web in which latest.json names the newest; empty: nobody is asked
}

// packs are those that were read.
type packs struct {
	Store *store.Store
	mutex sync.Mutex
	read  map[string]*reference.Pack
}

// pack returns a pack; empty: the one pack the program.
func (p *packs) pack(ctx context.Context, version string) (*reference.Pack, error) {
	if version == "" || version == reference.Shipped().Version {
		return reference.Shipped(), nil
	}
	p.mutex.Lock()
	defer p.mutex.Unlock()
	if pack := p.read[version]; pack != nil {
		return pack, nil
	}
	data, err := p.Store.PackData(ctx, version)
	if err != nil {
		return nil, err
	}
	pack, err := reference.Kept(data)
	if err != nil {
		return nil, err
	}
	if p.read == nil {
		p.read = map[string]*reference.Pack{}
	}
	p.read[version] = pack
	return pack, nil
}

// inUse returns the pack in use.
func (s *Safety) inUse(ctx context.Context) (*reference.Pack, error) {
	version, err := s.Store.PackInUse(ctx)
	if err != nil {
		return nil, err
	}
	return s.packs.pack(ctx, version)
}

// packOf returns the pack of a version, or the one in use.
func (s *Safety) packOf(ctx context.Context, version string) (*reference.Pack, error) {
	if version == "" {
		return s.inUse(ctx)
	}
	return s.packs.pack(ctx, version)
}

// KeepShipped keeps the pack of the program, so that designs of today find their symbols when a later program ships
// another. It is taken into use where none is.
func KeepShipped(ctx context.Context, s *store.Store) error {
	p := reference.Shipped()
	kept, err := s.Packs(ctx)
	if err != nil {
		return err
	}
	if !slices.ContainsFunc(kept, func(k store.KeptPack) bool { return k.Version == p.Version }) {
		var data bytes.Buffer
		if err := reference.Write(&data, p.About, p.Files(), nil); err != nil {
			return err
		}
		told := new(refusal.Error)
		// another server was first
		if err := s.KeepPack(ctx, p, data.Bytes(), p.By); err != nil && !errors.As(err, &told) {
			return err
		}
	}
	if version, err := s.PackInUse(ctx); err != nil || version != "" {
		return err
	}
	return s.ChoosePack(ctx, p.Version, p.By)
}

// BroughtSymbols gives drawings of the plant's own symbols, and of those of packs that were brought in.
func BroughtSymbols(s *store.Store) func(id string) ([]byte, error) {
	return func(named string) ([]byte, error) {
		id, version, other := symbols.EditionOf(named)
		if !other {
			return s.SymbolDrawing(context.Background(), named)
		}
		data, err := s.PackData(context.Background(), version)
		if errors.As(err, new(*refusal.Error)) {
			return nil, &symbols.UnknownError{ID: named}
		}
		if err != nil {
			return nil, err
		}
		return reference.Drawing(data, id)
	}
}

// GetReference implements api.StrictServerInterface.
func (s *Safety) GetReference(ctx context.Context, _ api.GetReferenceRequestObject) (api.GetReferenceResponseObject,
	error) {
	shown, err := s.reference(ctx, "")
	return api.GetReference200JSONResponse(shown), err
}

// reference shows the packs that are here.
func (s *Safety) reference(ctx context.Context, text string) (shown api.Reference, err error) {
	inUse, err := s.inUse(ctx)
	if err != nil {
		return shown, err
	}
	kept, err := s.Store.Packs(ctx)
	shown = api.Reference{Version: inUse.Version, Asks: s.issuer.Address != "", Takes: len(s.issuer.Keys) > 0,
		Text: text, Packs: []api.ReferencePack{}}
	for _, p := range kept {
		shown.Packs = append(shown.Packs, api.ReferencePack{Version: p.Version, IssuedOn: p.IssuedOn,
			IssuedBy: p.IssuedBy, Notes: p.Notes, TakenBy: p.TakenBy, TakenAt: p.TakenAt,
			InUse: p.Version == inUse.Version, Newer: reference.Newer(p.Version, inUse.Version)})
	}
	return shown, err
}

// issueTime is how long whoever issues packs is waited for.
const issueTime = 30 * time.Second

// CheckReference implements api.StrictServerInterface.
func (s *Safety) CheckReference(ctx context.Context,
	_ api.CheckReferenceRequestObject) (api.CheckReferenceResponseObject, error) {
	if s.issuer.Address == "" {
		return nil, noIssuer.With()
	}
	var latest struct{ Version, File string }
	told, err := s.issued(ctx, "latest.json", 64<<10)
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(told, &latest); err != nil || latest.Version == "" || latest.File == "" ||
		strings.ContainsAny(latest.File, `/\:`) {
		return nil, newestUnknown.With(s.issuer.Address)
	}
	kept, err := s.Store.Packs(ctx)
	if err != nil {
		return nil, err
	}
	text := fmt.Sprintf("%s is the newest; it is here.", latest.Version)
	if !slices.ContainsFunc(kept, func(p store.KeptPack) bool { return p.Version == latest.Version }) {
		data, err := s.issued(ctx, latest.File, reference.MostBytes)
		if err != nil {
			return nil, err
		}
		version, err := s.takePack(ctx, data)
		if err != nil {
			return nil, err
		}
		text = fmt.Sprintf("%s is new. It is here now, and not in use until you take it.", version)
	}
	shown, err := s.reference(ctx, text)
	return api.CheckReference200JSONResponse(shown), err
}

// issued gets a file of whoever issues packs.
func (s *Safety) issued(ctx context.Context, name string, most int64) ([]byte, error) {
	where, err := url.JoinPath(s.issuer.Address, name)
	if err != nil {
		return nil, badAddress.With(s.issuer.Address)
	}
	ctx, cancel := context.WithTimeout(ctx, issueTime)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, http.MethodGet, where, nil)
	if err != nil {
		return nil, badAddress2.With(where)
	}
	client := &http.Client{Transport: s.Clients.Guard.Transport(), CheckRedirect: reach.NoRedirects}
	defer client.CloseIdleConnections()
	response, err := client.Do(request)
	if forbidden := new(reach.ForbiddenError); errors.As(err, &forbidden) {
		return nil, forbidden
	}
	if err != nil {
		return nil, issuerSilent.With(s.issuer.Address)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		return nil, issuerRefuses.With(where, response.Status)
	}
	data, err := io.ReadAll(io.LimitReader(response.Body, most+1))
	if err != nil {
		return nil, issuerBroke.With(where)
	}
	return data, nil // one that is too large is told by who reads it
}

// takePack keeps a signed pack, and returns its version.
func (s *Safety) takePack(ctx context.Context, data []byte) (string, error) {
	p, err := reference.Open(data, s.issuer.Keys)
	if err != nil {
		return "", err
	}
	return p.Version, s.Store.KeepPack(ctx, p, data, s.User(ctx))
}

// AddReferencePack implements api.StrictServerInterface.
func (s *Safety) AddReferencePack(ctx context.Context,
	req api.AddReferencePackRequestObject) (api.AddReferencePackResponseObject, error) {
	file, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	version, err := s.takePack(ctx, file.Data)
	if err != nil {
		return nil, err
	}
	shown, err := s.reference(ctx, fmt.Sprintf("%s is here now, and not in use until you take it.", version))
	return api.AddReferencePack200JSONResponse(shown), err
}

// mostVersionParts is how many numbers a version of a pack has at most.
const mostVersionParts = 4

// GetReferenceChanges implements api.StrictServerInterface.
func (s *Safety) GetReferenceChanges(ctx context.Context,
	req api.GetReferenceChangesRequestObject) (api.GetReferenceChangesResponseObject, error) {
	from, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	to, err := s.packs.pack(ctx, req.Version)
	if err != nil {
		return nil, err
	}
	changes := reference.Compare(from, to)
	answer := toChanges(changes, from, to)
	designs, err := s.Store.SafetyDesigns(ctx)
	if err != nil {
		return nil, err
	}
	for _, kept := range designs {
		d, err := design.Trusted(kept.Document)
		if err != nil {
			continue // a design that is being worked at
		}
		for _, touching := range reference.Touches(d, changes) {
			i := slices.IndexFunc(answer, func(c api.ReferenceChange) bool {
				return string(c.Kind) == touching.Kind &&
					c.Id == touching.ID
			})
			answer[i].Designs = append(answer[i].Designs, api.DesignUse{Id: kept.ID, Name: kept.Name})
		}
	}
	return api.GetReferenceChanges200JSONResponse(answer), nil
}

func toChanges(changes []reference.Change, from, to *reference.Pack) []api.ReferenceChange {
	shown := []api.ReferenceChange{}
	drawn := func(p *reference.Pack, id string) *string {
		return new("/api/symbols/" + url.PathEscape(symbols.Named(p.Version, id)) + "/drawing")
	}
	for _, c := range changes {
		one := api.ReferenceChange{Kind: api.ReferenceChangeKind(c.Kind), Id: c.ID, Name: c.Name,
			What: api.ReferenceChangeWhat(c.What), Before: c.Before, After: c.After, Designs: []api.DesignUse{}}
		if c.Kind == reference.Symbol && c.What != reference.Added {
			one.DrawnBefore = drawn(from, c.ID)
		}
		if c.Kind == reference.Symbol && c.What != reference.Withdrawn {
			one.DrawnAfter = drawn(to, c.ID)
		}
		shown = append(shown, one)
	}
	return shown
}

// ChooseReference implements api.StrictServerInterface.
func (s *Safety) ChooseReference(ctx context.Context,
	req api.ChooseReferenceRequestObject) (api.ChooseReferenceResponseObject, error) {
	return api.ChooseReference204Response{}, s.Store.ChoosePack(ctx, req.Version, s.User(ctx))
}

// ReferenceOnLabel implements api.StrictServerInterface.
func (s *Safety) ReferenceOnLabel(ctx context.Context,
	req api.ReferenceOnLabelRequestObject) (api.ReferenceOnLabelResponseObject, error) {
	d, err := design.Parse(req.Body.Document)
	if err != nil {
		return nil, err
	}
	to, err := s.inUse(ctx)
	if err != nil {
		return nil, err
	}
	answer := api.ReferenceOnLabel200JSONResponse{Reference: cmp.Or(d.Reference, reference.Shipped().Version),
		Version: to.Version, Changes: []api.ReferenceChange{}, Document: req.Body.Document}
	if answer.Reference == answer.Version {
		return answer, nil
	}
	from, err := s.packs.pack(ctx, d.Reference)
	if err != nil {
		return nil, err
	}
	touching := reference.Touches(d, reference.Compare(from, to))
	made := reference.Take(d, to.Version, touching)
	answer.Changes = toChanges(touching, from, to)
	if answer.Document, err = json.Marshal(made); err != nil {
		return nil, fmt.Errorf("write design: %w", err)
	}
	for of, into := range map[*design.Design]*string{d: &answer.Before, made: &answer.After} {
		picture, err := designs.Drawn(of, of.Fields, nil)
		if err != nil {
			return nil, err
		}
		data, err := io.ReadAll(picture)
		if err != nil {
			return nil, fmt.Errorf("draw a label: %w", err)
		}
		*into = "data:image/png;base64," + base64.StdEncoding.EncodeToString(data)
	}
	return answer, nil
}

// bookOf returns the hazards of a pack with the substances of the plant's own.
func (s *Safety) bookOf(ctx context.Context, version string) (*hazard.Book, error) {
	pack, err := s.packOf(ctx, version)
	if err != nil {
		return nil, err
	}
	kept, err := s.Store.Substances(ctx)
	if err != nil || len(kept) == 0 {
		return pack.Book, err
	}
	own := make([]hazard.Substance, len(kept))
	for i, about := range kept {
		if err := json.Unmarshal(about, &own[i]); err != nil {
			return nil, fmt.Errorf("read a substance of the plant's own: %w", err)
		}
	}
	return pack.Book.With(own)
}
