#!/bin/sh
set -e
cd "$(dirname "$0")/../ios"
xcodebuild -project Deckpass.xcodeproj -scheme Deckpass -configuration Release archive
