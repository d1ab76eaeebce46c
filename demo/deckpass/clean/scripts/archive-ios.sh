#!/bin/sh
set -e
cd "$(dirname "$0")/../ios"
xcodebuild -workspace Deckpass.xcworkspace -scheme Deckpass -configuration Release archive
