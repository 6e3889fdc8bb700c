package contract

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
)

// documented is what the source says of a type besides what reflection knows.
type documented struct {
	text   string
	fields map[string]string
	values []string // its constants, quoted
}

// Docs is what the sources say of all types, by the paths of their packages and their names.
type Docs map[string]*documented

// ReadDocs reads the comments of all types in some folders of the project, by the path of their package and their name.
func ReadDocs(root string, folders ...string) (Docs, error) {
	docs := Docs{}
	for _, folder := range folders {
		if err := docs.read(root, folder); err != nil {
			return nil, err
		}
	}
	return docs, nil
}

func (docs Docs) read(root, folder string) error {
	return filepath.WalkDir(filepath.Join(root, folder), func(file string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() || !strings.HasSuffix(file, ".go") || strings.HasSuffix(file, "_test.go") {
			return err
		}
		in, err := filepath.Rel(root, filepath.Dir(file))
		if err != nil {
			return err
		}
		source, err := parser.ParseFile(token.NewFileSet(), file, nil, parser.ParseComments)
		if err != nil {
			return err
		}
		docs.note(path.Join("wunderkammer", filepath.ToSlash(in)), source)
		return nil
	})
}

// note reads the comments of the types in a file of a package.
func (docs Docs) note(in string, source *ast.File) {
	of := func(name string) *documented {
		if docs[in+"."+name] == nil {
			docs[in+"."+name] = &documented{fields: map[string]string{}}
		}
		return docs[in+"."+name]
	}
	for _, d := range source.Decls {
		general, ok := d.(*ast.GenDecl)
		if !ok {
			continue
		}
		for _, spec := range general.Specs {
			switch s := spec.(type) {
			case *ast.TypeSpec:
				text := s.Doc.Text()
				if text == "" {
					text = general.Doc.Text()
				}
				of(s.Name.Name).text = text
				if of, ok := s.Type.(*ast.StructType); ok {
					for _, f := range of.Fields.List {
						for _, name := range f.Names {
							docs[in+"."+s.Name.Name].fields[name.Name] = f.Doc.Text() + f.Comment.Text()
						}
					}
				}
			case *ast.ValueSpec:
				name, ok := s.Type.(*ast.Ident)
				if general.Tok != token.CONST || !ok {
					continue
				}
				for _, v := range s.Values {
					literal, ok := v.(*ast.BasicLit)
					if !ok || literal.Kind != token.STRING {
						continue
					}
					word, _ := strconv.Unquote(literal.Value)
					if quoted := "'" + word + "'"; !slices.Contains(of(name.Name).values, quoted) {
						of(name.Name).values = append(of(name.Name).values, quoted)
					}
				}
			}
		}
	}
}
