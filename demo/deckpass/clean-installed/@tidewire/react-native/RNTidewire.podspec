require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNTidewire"
  s.version      = package["version"]
  s.summary      = "@tidewire/react-native for React Native"
  s.homepage     = "https://docs.tidewire.example"
  s.license      = "MIT"
  s.author       = "tidewire"
  s.platforms    = { :ios => "13.0" }
  s.source       = { :git => "https://git.tidewire.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.resource_bundles = { "RNTidewire" => ["ios/PrivacyInfo.xcprivacy"] }

  s.dependency "React-Core"
end
