require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNTollbuoy"
  s.version      = package["version"]
  s.summary      = "Tollbuoy for React Native"
  s.homepage     = "https://docs.tollbuoy.example"
  s.license      = "MIT"
  s.author       = "Tollbuoy"
  s.platforms    = { :ios => "15.0" }
  s.source       = { :git => "https://git.tollbuoy.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.dependency "React-Core"
  s.dependency "TollbuoySDK", "~> 3.1"
end
