"""The numbers: channels, notes, controllers, programs and transpositions worked out together."""
