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
	return api.AddPicture200JSONResponse{Hash: kept.Hash, Name: kept.Name, Width: kept.Width, Height: kept.Height}, nil
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
