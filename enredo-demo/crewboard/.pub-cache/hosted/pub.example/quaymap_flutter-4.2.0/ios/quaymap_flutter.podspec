Pod::Spec.new do |s|
  s.name             = 'quaymap_flutter'
  s.version          = '4.2.0'
  s.summary          = 'quaymap_flutter'
  s.source           = { :path => '.' }
  s.dependency 'Flutter'
  s.platform = :ios, '14.0'
end
