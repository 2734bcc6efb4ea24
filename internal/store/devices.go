package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Device is a phone or another machine that was let in. What it shows is kept as a hash alone, so that a
// copied notebook opens nothing.
type Device struct {
	ID        uint
	Name      string
	Hash      []byte // of the token in its cookie
	CreatedAt time.Time
	SeenAt    time.Time
}

// Devices lists what was let in, the newest first.
func (s *Store) Devices(ctx context.Context) ([]Device, error) {
	return all[Device](s.db.WithContext(ctx).Order("id DESC"), "read the devices")
}

// DeviceOf is the device whose token has the hash, ErrNotFound where none has.
func (s *Store) DeviceOf(ctx context.Context, hash []byte) (Device, error) {
	var d Device
	if err := s.db.WithContext(ctx).Where("hash = ?", hash).Take(&d).Error; err != nil {
		return d, fmt.Errorf("the device: %w", plain(err))
	}
	return d, nil
}

// AddDevice lets a device in. Beyond maxDevices the one that was let in first goes.
func (s *Store) AddDevice(ctx context.Context, name string, hash []byte) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		now := s.now().UTC()
		if err := tx.Create(&Device{Name: name, Hash: hash, CreatedAt: now, SeenAt: now}).Error; err != nil {
			return err
		}
		return tx.Exec("DELETE FROM devices WHERE id NOT IN (SELECT id FROM devices ORDER BY id DESC LIMIT ?)",
			maxDevices).Error
	})
}

// SeenDevice notes that a device was there.
func (s *Store) SeenDevice(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		return tx.Model(&Device{}).Where("id = ?", id).Update("seen_at", s.now().UTC()).Error
	})
}

// ForgetDevice shuts a device out; with 0 all of them.
func (s *Store) ForgetDevice(ctx context.Context, id uint) error {
	return s.write(ctx, func(tx *gorm.DB) error {
		if id == 0 {
			return tx.Exec("DELETE FROM devices").Error
		}
		return tx.Delete(&Device{ID: id}).Error
	})
}

// maxDevices is how many devices a notebook remembers.
const maxDevices = 20
