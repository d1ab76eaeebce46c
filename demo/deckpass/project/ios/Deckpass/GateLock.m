#import <React/RCTBridgeModule.h>

@interface RCT_EXTERN_MODULE(GateLock, NSObject)
RCT_EXTERN_METHOD(open:(RCTPromiseResolveBlock)resolve rejecter:(RCTPromiseRejectBlock)reject)
@end
