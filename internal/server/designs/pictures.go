package designs

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"oddspool/core/design"
	"oddspool/core/picture"
	"oddspool/internal/api"
	"oddspool/internal/artwork"
	"oddspool/internal/server/handler"
	"oddspool/internal/store"
)

// AddPicture implements api.StrictServerInterface.
func (s *Designs) AddPicture(ctx context.Context, req api.AddPictureRequestObject) (api.AddPictureResponseObject,
	error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	if artwork.Is(u.Data) {
		pages, err := artwork.Pages(ctx, u.Data)
		if err != nil {
			return nil, err
		}
		u.Data = pages[0].Best()
	}
	about, err := s.keepPicture(ctx, u.Name, u.Data)
	return api.AddPicture200JSONResponse(about), err
}

func (s *Designs) keepPicture(ctx context.Context, name string, data []byte) (api.KeptPicture, error) {
	read, err := picture.Decode(data)
	if err != nil {
		return api.KeptPicture{}, err
	}
	kept := store.Picture{Hash: picture.Hash(data), Name: name, Width: read.Width, Height: read.Height}
	return keptPicture(kept, read), s.Store.AddPicture(ctx, kept, data, s.User(ctx))
}

// AddArtwork implements api.StrictServerInterface.
func (s *Designs) AddArtwork(ctx context.Context, req api.AddArtworkRequestObject) (api.AddArtworkResponseObject,
	error) {
	u, err := handler.ReadUpload(req.Body)
	if err != nil {
		return nil, err
	}
	pages := []artwork.Page{{PNG: u.Data}}
	if artwork.Is(u.Data) {
		if pages, err = artwork.Pages(ctx, u.Data); err != nil {
			return nil, err
		}
	}
	answer := api.AddArtwork200JSONResponse{}
	for i, page := range pages {
		name := u.Name
		if len(pages) > 1 {
			name = fmt.Sprintf("%s, page %d", u.Name, i+1)
		}
		made := api.ArtworkPage{Codes: append([]artwork.Found{}, page.Codes...)}
		if made.Picture, err = s.keepPicture(ctx, name, page.Best()); err != nil {
			return nil, err
		}
		answer = append(answer, made)
	}
	return answer, nil
}

// DesignArtwork implements api.StrictServerInterface.
func (s *Designs) DesignArtwork(ctx context.Context,
	req api.DesignArtworkRequestObject) (api.DesignArtworkResponseObject, error) {
	b := req.Body
	turn := (*api.NewDesignTurn)(nil)
	if b.Turn != nil {
		turn = new(api.NewDesignTurn(*b.Turn))
	}
	d, err := s.emptyDesign(ctx, &api.NewDesign{Name: &b.Name, PrinterId: &b.PrinterId, StockId: &b.StockId,
		Turn: turn})
	if err != nil {
		return nil, err
	}
	var pages []design.Artwork
	for _, hash := range b.Pages {
		data, err := s.Store.PictureData(ctx, hash)
		if err != nil {
			return nil, err
		}
		read, err := picture.Decode(data)
		if err != nil {
			return nil, err
		}
		page := design.Artwork{Hash: hash, Width: read.TrueWidth, Height: read.TrueHeight}
		if page.Width == 0 { // a picture that does not say: dot for dot
			page.Width, page.Height = d.Printer.Resolution.Length(read.Width), d.Printer.Resolution.Length(read.Height)
		}
		if b.Trim != nil && *b.Trim {
			page.Crop.Left, page.Crop.Top, page.Crop.Right, page.Crop.Bottom = read.White()
		}
		pages = append(pages, page)
	}
	d.PutArtwork(pages, b.Fit != nil && *b.Fit)
	var set *int64
	if len(pages) > 1 {
		rows := make([][]string, len(pages))
		for i := range rows {
			rows[i] = []string{strconv.Itoa(i + 1)}
		}
		made, err := s.Store.AddRecordSet(ctx, "Pages of "+b.Name, []string{design.PageField}, rows, s.User(ctx))
		if err != nil {
			return nil, err
		}
		set = &made.ID
	}
	document, err := json.Marshal(d)
	if err != nil {
		return nil, fmt.Errorf("write design: %w", err)
	}
	added, err := s.Store.AddDesign(ctx, d.Name, document, set, &b.PrinterId, s.User(ctx))
	return api.DesignArtwork200JSONResponse(toDesign(added)), err
}

func keptPicture(kept store.Picture, read *picture.Picture) api.KeptPicture {
	about := api.KeptPicture{Hash: kept.Hash, Name: kept.Name, Width: kept.Width, Height: kept.Height,
		Lines: read.Drawn()}
	if read.TrueWidth > 0 {
		about.TrueWidth, about.TrueHeight = new(int(read.TrueWidth)), new(int(read.TrueHeight))
	}
	about.White.Left, about.White.Top, about.White.Right, about.White.Bottom = read.White()
	return about
}

// AboutPicture implements api.StrictServerInterface.
func (s *Designs) AboutPicture(ctx context.Context, req api.AboutPictureRequestObject) (api.AboutPictureResponseObject,
	error) {
	data, err := s.Store.PictureData(ctx, req.Hash)
	if absent := new(picture.AbsentError); errors.As(err, &absent) {
		return nil, noPicture.With(absent)
	}
	if err != nil {
		return nil, err
	}
	read, err := picture.Decode(data)
	if err != nil {
		return nil, err
	}
	return api.AboutPicture200JSONResponse(keptPicture(store.Picture{Hash: req.Hash, Width: read.Width,
		Height: read.Height}, read)), nil
}

// GetPicture implements api.StrictServerInterface.
func (s *Designs) GetPicture(ctx context.Context, req api.GetPictureRequestObject) (api.GetPictureResponseObject,
	error) {
	data, err := s.Store.PictureData(ctx, req.Hash)
	if absent := new(picture.AbsentError); errors.As(err, &absent) {
		return nil, noPicture.With(absent)
	}
	if err != nil {
		return nil, err
	}
	return pictureResponse{data}, nil
}

// A pictureResponse is a picture as it was brought in, of the kind that its bytes say.
type pictureResponse struct{ data []byte }

// VisitGetPictureResponse implements api.GetPictureResponseObject.
func (r pictureResponse) VisitGetPictureResponse(w http.ResponseWriter) error {
	w.Header().Set("Cache-Control", handler.ForGood)
	kind := http.DetectContentType(r.data)
	if strings.HasPrefix(kind, "text/") { // a drawing, which is plain SVG
		kind = "image/svg+xml"
	}
	w.Header().Set("Content-Type", kind)
	http.ServeContent(w, &http.Request{Method: http.MethodGet}, "", time.Time{}, bytes.NewReader(r.data))
	return nil
}
