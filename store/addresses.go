package store

import (
	"crypto/pbkdf2"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"errors"
	"time"

	"gorm.io/gorm"
)

// Address is where a composition is reached that was handed off.
type Address struct {
	Token       string    `json:"token"` // nobody guesses it
	Project     string    `json:"-"`
	Composition string    `json:"composition"`
	Name        string    `json:"name"` // whom it is for
	Locked      bool      `json:"locked"`
	Created     time.Time `json:"created"`

	salt, password []byte
}

// addressRow is the table of addresses. A password is kept as what PBKDF2 makes of it.
type addressRow struct {
	Token       string `gorm:"primaryKey"`
	ProjectID   string
	Composition string
	Name        string
	Salt        []byte
	Password    []byte
	CreatedAt   time.Time
	WithdrawnAt *time.Time
}

func (addressRow) TableName() string { return "addresses" }

func (r *addressRow) address() Address {
	return Address{r.Token, r.ProjectID, r.Composition, r.Name, len(r.Password) > 0, r.CreatedAt, r.Salt, r.Password}
}

// ErrNoAddress is returned for an address that there is not, or no more.
var ErrNoAddress = errors.New("there is no hand-off at this address; it may have been withdrawn")

// rounds is how often a password is hashed.
const rounds = 210_000

func hashed(password string, salt []byte) ([]byte, error) {
	return pbkdf2.Key(sha256.New, password, salt, rounds, sha256.Size)
}

// Opens reports whether a password is that of the address; any is, where it has none.
func (a *Address) Opens(password string) bool {
	if !a.Locked {
		return true
	}
	hash, err := hashed(password, a.salt)
	return err == nil && subtle.ConstantTimeCompare(hash, a.password) == 1
}

// HandOff makes an address at which a composition of a project is reached. An empty password: whoever has the address comes in.
func (s *Store) HandOff(project, composition, name, password string) (Address, error) {
	row := addressRow{Token: rand.Text(), ProjectID: project, Composition: composition, Name: name, CreatedAt: time.Now()}
	if password != "" {
		row.Salt = make([]byte, 16)
		if _, err := rand.Read(row.Salt); err != nil {
			return Address{}, err
		}
		var err error
		if row.Password, err = hashed(password, row.Salt); err != nil {
			return Address{}, err
		}
	}
	return row.address(), s.written(s.db.Create(&row).Error)
}

// Addresses lists the addresses of a composition that were not withdrawn, the oldest first.
func (s *Store) Addresses(project, composition string) ([]Address, error) {
	var rows []addressRow
	err := s.db.Order("created_at").Find(&rows, "project_id = ? AND composition = ? AND withdrawn_at IS NULL", project, composition).Error
	out := make([]Address, len(rows))
	for k := range rows {
		out[k] = rows[k].address()
	}
	return out, read(err)
}

// Address returns the address with a token, unless it was withdrawn or its project is deleted.
func (s *Store) Address(token string) (Address, error) {
	var row addressRow
	err := s.db.Joins("JOIN projects ON projects.id = addresses.project_id AND projects.deleted_at IS NULL").
		Take(&row, "addresses.token = ? AND addresses.withdrawn_at IS NULL", token).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Address{}, ErrNoAddress
	}
	return row.address(), read(err)
}

// Withdraw takes an address of a project back; whoever has it reaches nothing any more.
func (s *Store) Withdraw(project, token string) error {
	done := s.db.Model(&addressRow{}).Where("token = ? AND project_id = ? AND withdrawn_at IS NULL", token, project).Update("withdrawn_at", time.Now())
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNoAddress
	}
	return s.written(done.Error)
}
