require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNGullpost"
  s.version      = package["version"]
  s.summary      = "@gullpost/react-native for React Native"
  s.homepage     = "https://docs.gullpost.example"
  s.license      = "MIT"
  s.author       = "gullpost"
  s.platforms    = { :ios => "13.0" }
  s.source       = { :git => "https://git.gullpost.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.dependency "React-Core"
end
