package server

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"time"

	"oddspool/core/picture"
	"oddspool/internal/api"
	"oddspool/internal/store"
)

// AddPicture implements api.StrictServerInterface.
func (s *Server) AddPicture(ctx context.Context, req api.AddPictureRequestObject) (api.AddPictureResponseObject, error) {
	u, err := readUpload(req.Body)
	if err != nil {
		return nil, err
	}
	read, err := picture.Decode(u.data)
	if err != nil {
		return nil, err
	}
	kept := store.Picture{Hash: picture.Hash(u.data), Name: u.name, Width: read.Width, Height: read.Height}
	if err := s.store.AddPicture(ctx, kept, u.data, s.user(ctx)); err != nil {
		return nil, err
	}
	return api.AddPicture200JSONResponse(keptPicture(kept, read)), nil
}

func keptPicture(kept store.Picture, read *picture.Picture) api.KeptPicture {
	about := api.KeptPicture{Hash: kept.Hash, Name: kept.Name, Width: kept.Width, Height: kept.Height}
	if read.TrueWidth > 0 {
		about.TrueWidth, about.TrueHeight = new(int(read.TrueWidth)), new(int(read.TrueHeight))
	}
	about.White.Left, about.White.Top, about.White.Right, about.White.Bottom = read.White()
	return about
}

// AboutPicture implements api.StrictServerInterface.
func (s *Server) AboutPicture(ctx context.Context, req api.AboutPictureRequestObject) (api.AboutPictureResponseObject, error) {
	data, err := s.store.PictureData(ctx, req.Hash)
	if absent := new(picture.AbsentError); errors.As(err, &absent) {
		return nil, &wordsError{http.StatusNotFound, absent.Error()}
	}
	if err != nil {
		return nil, err
	}
	read, err := picture.Decode(data)
	if err != nil {
		return nil, err
	}
	return api.AboutPicture200JSONResponse(keptPicture(store.Picture{Hash: req.Hash, Width: read.Width, Height: read.Height}, read)), nil
}

// GetPicture implements api.StrictServerInterface.
func (s *Server) GetPicture(ctx context.Context, req api.GetPictureRequestObject) (api.GetPictureResponseObject, error) {
	data, err := s.store.PictureData(ctx, req.Hash)
	if absent := new(picture.AbsentError); errors.As(err, &absent) {
		return nil, &wordsError{http.StatusNotFound, absent.Error()}
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
	w.Header().Set("Cache-Control", forGood)
	w.Header().Set("Content-Type", http.DetectContentType(r.data))
	http.ServeContent(w, &http.Request{Method: http.MethodGet}, "", time.Time{}, bytes.NewReader(r.data))
	return nil
}
