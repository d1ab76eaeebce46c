Pod::Spec.new do |s|
  s.name             = 'brinelog_flutter'
  s.version          = '2.1.0'
  s.summary          = 'brinelog_flutter'
  s.source           = { :path => '.' }
  s.dependency 'Flutter'
  s.platform = :ios, '13.0'
end
