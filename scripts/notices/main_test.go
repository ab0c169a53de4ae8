package main

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"umberfrost/internal/web"
)

func TestALicenceIsKnownByItsWords(t *testing.T) {
	for text, name := range map[string]string{
		"Permission is hereby granted,\n free of charge, to any person":                         "MIT",
		"Redistribution and use in source and binary forms … Neither the name of the copyright": "BSD-3-Clause",
		"Redistribution and use in source and binary forms, with or without":                    "BSD-2-Clause",
		"Apache License\n Version 2.0":                                                          "Apache-2.0", "All rights reserved": "",
	} {
		assert.Equal(t, name, licenceOf(text), text)
	}
}

func TestEveryTextIsKeptOnceAndNoneIsMissing(t *testing.T) {
	var found gathered
	folder := func(name, text string) string {
		dir := t.TempDir()
		require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o600))
		return dir
	}
	require.NoError(t, found.add(web.Part{Name: "one"}, folder("LICENSE", "Apache License\n")))
	require.NoError(t, found.add(web.Part{Name: "two"}, folder("Licence.md", "Apache License")))
	require.NoError(t, found.add(web.Part{Name: "three", Licence: "MIT"}, folder("readme", "x")))
	assert.Error(t, found.add(web.Part{Name: "four"}, folder("license.go", "Apache License")), "says nothing of its licence")
	assert.Equal(t, []string{"Apache License"}, found.notices.Texts)
	assert.Equal(t, []web.Part{{Name: "one", Licence: "Apache-2.0"}, {Name: "two", Licence: "Apache-2.0"},
		{Name: "three", Licence: "MIT", Text: -1}}, found.notices.Parts)
}
