package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/photo"
	"ambivia/exchange"
	"ambivia/store"
)

// ExportJob answers with a whole job as one file.
func (s *Server) ExportJob(ctx context.Context, r ExportJobRequestObject) (ExportJobResponseObject, error) {
	job, err := s.store.Job(ctx, r.Job)
	if err != nil {
		return nil, err
	}
	file, err := spool("ambivia-export-*")
	if err != nil {
		return nil, err
	}
	if err := exchange.Export(ctx, s.store, r.Job, file); err != nil {
		return nil, errors.Join(err, file.Close())
	}
	size, err := file.Seek(0, io.SeekCurrent)
	if err == nil {
		_, err = file.Seek(0, io.SeekStart)
	}
	if err != nil {
		return nil, errors.Join(err, file.Close())
	}
	return ExportJob200ApplicationzipResponse{Body: file, ContentLength: size, Headers: ExportJob200ResponseHeaders{attachment(job.Name, ".zip")}}, nil
}

// spool makes a file for what is too large for memory. It has no name any more, so it is gone when
// it is closed, whatever happens to the program.
func spool(pattern string) (*os.File, error) {
	file, err := os.CreateTemp("", pattern)
	if err != nil {
		return nil, err
	}
	if err := os.Remove(file.Name()); err != nil {
		return nil, errors.Join(err, file.Close())
	}
	return file, nil
}

// CopyJob makes a job like another, as if its archive were read in again.
func (s *Server) CopyJob(ctx context.Context, r CopyJobRequestObject) (CopyJobResponseObject, error) {
	file, err := spool("ambivia-copy-*")
	if err != nil {
		return nil, err
	}
	defer file.Close()
	if err := exchange.Export(ctx, s.store, r.Job, file); err != nil {
		return nil, err
	}
	size, err := file.Seek(0, io.SeekCurrent)
	if err != nil {
		return nil, err
	}
	job, err := exchange.Read(file, size)
	if err != nil {
		return nil, err
	}
	job.Name = exchange.NameOfCopy(job.Name)
	made, err := job.Write(ctx, s.store)
	if err != nil {
		return nil, err
	}
	return CopyJob201JSONResponse{Job: toJob(made), Lost: append([]string{}, job.Lost...)}, nil
}

// ImportJob reads a job archive, or a circuit file, into a job of its own.
func (s *Server) ImportJob(ctx context.Context, r ImportJobRequestObject) (ImportJobResponseObject, error) {
	file, err := spool("ambivia-import-*")
	if err != nil {
		return nil, err
	}
	defer file.Close()
	size, err := io.Copy(file, r.Body)
	if err != nil {
		return nil, badRequest(err)
	}
	job, err := exchange.Read(file, size)
	if err != nil {
		return nil, err
	}
	made, err := job.Write(ctx, s.store)
	if err != nil {
		return nil, err
	}
	return ImportJob201JSONResponse{Job: toJob(made), Lost: append([]string{}, job.Lost...)}, nil
}

// readCircuit reads a circuit file that comes into a job, and says what to do
// where somebody brings a whole job.
func readCircuit(body io.Reader) (*circuit.Circuit, error) {
	data, err := io.ReadAll(body)
	if err != nil {
		return nil, badRequest(err)
	}
	if archive.Is(data) {
		return nil, &problemError{http.StatusUnprocessableEntity, "whole-job", "", "this file is a whole job; import it on the page of all jobs, where it becomes a job of its own"}
	}
	return circuit.Parse(data)
}

func toPhotos(list []store.Photo) []Photo {
	out := []Photo{}
	for _, p := range list {
		out = append(out, toPhoto(p))
	}
	return out
}

func toPhoto(p store.Photo) Photo {
	return Photo{Id: p.ID, Box: p.Box, Note: p.Note, Width: p.Width, Height: p.Height, Created: p.Created}
}

// AddPhoto keeps a photograph of a box.
func (s *Server) AddPhoto(ctx context.Context, r AddPhotoRequestObject) (AddPhotoResponseObject, error) {
	o, err := s.load(ctx, r.Circuit)
	if err != nil {
		return nil, err
	}
	if o.doc().Box(r.Box) == nil {
		return nil, &problemError{http.StatusNotFound, "not-found", "box", fmt.Sprintf("there is no box %q; it may have been removed", r.Box)}
	}
	data, err := io.ReadAll(r.Body)
	if err != nil {
		return nil, badRequest(err)
	}
	picture, err := photo.Clean(data)
	var not *photo.Error
	if errors.As(err, &not) {
		return nil, &problemError{http.StatusUnprocessableEntity, not.Code, "", not.Text}
	}
	if err != nil {
		return nil, err
	}
	p, err := s.store.AddPhoto(ctx, store.Photo{Circuit: r.Circuit, Box: r.Box, Width: picture.Width, Height: picture.Height}, picture.JPEG)
	return AddPhoto201JSONResponse(toPhoto(p)), err
}

// GetPhoto answers with a picture.
func (s *Server) GetPhoto(ctx context.Context, r GetPhotoRequestObject) (GetPhotoResponseObject, error) {
	jpeg, err := s.store.Picture(ctx, r.Photo)
	if err != nil {
		return nil, err
	}
	if r.Params.Small != nil && *r.Params.Small {
		small, known := s.thumbs.Get(r.Photo)
		if !known {
			if small, err = photo.Small(jpeg); err != nil {
				return nil, err
			}
			s.thumbs.Add(r.Photo, small)
		}
		jpeg = small
	}
	return GetPhoto200ImagejpegResponse{Body: bytes.NewReader(jpeg), ContentLength: int64(len(jpeg))}, err
}

// NotePhoto writes what is noted of a photograph.
func (s *Server) NotePhoto(ctx context.Context, r NotePhotoRequestObject) (NotePhotoResponseObject, error) {
	p, err := s.store.NotePhoto(ctx, r.Photo, r.Body.Note)
	return NotePhoto200JSONResponse(toPhoto(p)), err
}

// DeletePhoto removes a photograph.
func (s *Server) DeletePhoto(ctx context.Context, r DeletePhotoRequestObject) (DeletePhotoResponseObject, error) {
	return DeletePhoto204Response{}, s.store.DeletePhoto(ctx, r.Photo)
}
