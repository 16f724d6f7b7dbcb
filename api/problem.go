package api

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"syscall"

	"github.com/gin-gonic/gin"

	"ambivia/core/archive"
	"ambivia/core/circuit"
	"ambivia/core/limits"
	"ambivia/core/trace"
	"ambivia/store"
)

// problemError is an error that knows its answer.
type problemError struct {
	status              int
	code, place, detail string
}

func (e *problemError) Error() string { return e.detail }

// staleError is a change that was made on a revision which is not the head.
type staleError struct {
	what    string // as "the circuit"
	head    string
	changed []string
}

func (e *staleError) Error() string { return e.what + " was changed meanwhile; nothing was written" }

// stale makes an answer with the version that is kept now of the store's word that something was changed meanwhile; any other
// error it leaves.
func stale(err error, what string, version func() (string, error)) error {
	if !errors.Is(err, store.ErrStale) {
		return err
	}
	now, err := version()
	if err != nil {
		return err
	}
	return &staleError{what, now, []string{}}
}

func badRequest(err error) error {
	var tooLarge *http.MaxBytesError
	if errors.As(err, &tooLarge) {
		return &problemError{http.StatusRequestEntityTooLarge, "too-large", "", "the request is larger than the limit"}
	}
	var kind *json.UnmarshalTypeError
	if errors.As(err, &kind) {
		return &problemError{http.StatusBadRequest, "bad-request", kind.Field, "must be " + kind.Type.String()}
	}
	return &problemError{http.StatusBadRequest, "bad-request", "", err.Error()}
}

// refuse answers with what is wrong.
func (s *Server) refuse(c *gin.Context, err error) {
	p := s.problem(err)
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(p.Status, p)
}

// problem finds the answer for an error.
func (s *Server) problem(err error) Problem {
	make := func(status int, code, detail string) Problem {
		return Problem{Type: "urn:ambivia:problem:" + code, Title: http.StatusText(status), Status: status, Code: code, Detail: detail}
	}
	var own *problemError
	var file *circuit.Error
	var stale *staleError
	var packed *archive.Error
	var traced *trace.Error
	var limit *limits.Error
	switch {
	case errors.As(err, &own):
		p := make(own.status, own.code, own.detail)
		if own.place != "" {
			p.Place = &own.place
		}
		return p
	case errors.As(err, &stale):
		p := make(http.StatusConflict, "stale", stale.Error())
		p.Head, p.Changed = &stale.head, &stale.changed
		return p
	case errors.As(err, &file):
		first := file.Problems[0]
		status := http.StatusUnprocessableEntity
		if first.Code == circuit.CodeTooLarge {
			status = http.StatusRequestEntityTooLarge
		}
		p := make(status, string(first.Code), file.Error())
		p.Place, p.Problems = &first.Place, &file.Problems
		return p
	case errors.As(err, &traced):
		return make(http.StatusUnprocessableEntity, string(traced.Code), traced.Error())
	case errors.As(err, &packed):
		p := make(http.StatusUnprocessableEntity, packed.Code, packed.Error())
		p.Place = &packed.Place
		return p
	case errors.As(err, &limit):
		p := make(http.StatusUnprocessableEntity, limit.Code, limit.Error())
		if limit.Place != "" {
			p.Place = &limit.Place
		}
		return p
	case errors.Is(err, store.ErrDiskFull), errors.Is(err, syscall.ENOSPC):
		return make(http.StatusInsufficientStorage, "disk-full", store.ErrDiskFull.Error())
	case errors.Is(err, store.ErrReadOnly):
		return make(http.StatusInsufficientStorage, "read-only", store.ErrReadOnly.Error())
	case errors.Is(err, store.ErrBusy):
		return make(http.StatusServiceUnavailable, "busy", store.ErrBusy.Error())
	case errors.Is(err, store.ErrNotFound):
		return make(http.StatusNotFound, "not-found", "there is no such job, circuit or photograph; it may have been removed")
	case errors.Is(err, context.Canceled):
		return make(http.StatusServiceUnavailable, "stopped", "whoever asked did not wait for the answer")
	case errors.Is(err, context.DeadlineExceeded):
		return make(http.StatusServiceUnavailable, "too-long", "this takes longer than anybody should wait; record less at once, or split what has nothing to do with each other")
	case errors.Is(err, store.ErrNothing):
		return make(http.StatusConflict, "nothing-to-undo", "there is nothing more to undo or redo")
	}
	s.log.Error("failed", "error", err.Error())
	return make(http.StatusInternalServerError, "internal", "the program failed here; nothing was changed. The log says more.")
}
