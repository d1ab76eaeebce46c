require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNQuaymap"
  s.version      = package["version"]
  s.summary      = "Quaymap for React Native"
  s.homepage     = "https://docs.quaymap.example"
  s.license      = "MIT"
  s.author       = "Quaymap"
  s.platforms    = { :ios => "14.0" }
  s.source       = { :git => "https://git.quaymap.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.dependency "React-Core"
  s.dependency "QuaymapSDK", "~> 4.2"
end
