require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNMoorid"
  s.version      = package["version"]
  s.summary      = "@moorid/react-native for React Native"
  s.homepage     = "https://docs.moorid.example"
  s.license      = "MIT"
  s.author       = "moorid"
  s.platforms    = { :ios => "13.0" }
  s.source       = { :git => "https://git.moorid.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.dependency "React-Core"
end
