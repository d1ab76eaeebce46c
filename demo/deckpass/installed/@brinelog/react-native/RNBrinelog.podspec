require "json"

package = JSON.parse(File.read(File.join(__dir__, "package.json")))

Pod::Spec.new do |s|
  s.name         = "RNBrinelog"
  s.version      = package["version"]
  s.summary      = "Brinelog for React Native"
  s.homepage     = "https://docs.brinelog.example"
  s.license      = "MIT"
  s.author       = "Brinelog"
  s.platforms    = { :ios => "13.0" }
  s.source       = { :git => "https://git.brinelog.example/react-native.git", :tag => "v#{s.version}" }
  s.source_files = "ios/**/*.{h,m,mm,swift}"

  s.dependency "React-Core"
  s.dependency "BrinelogSDK", "~> 2.1"
end
